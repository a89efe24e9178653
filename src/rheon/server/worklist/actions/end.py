"""What is done when all is made: a command that the settings name, chosen on the page, with a minute to stop it."""

from __future__ import annotations

import logging
from datetime import timedelta

from django.db.models import Q
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from rheon.core.errors import PlanError, SettingsRefused
from rheon.server.shelf.models import Source, SourceState

from ..ends import ends
from ..models import IN_WORK, Job, JobState, Pace
from ..pace import pace
from .own_command import carry_out

log = logging.getLogger("rheon")
PATIENCE = timedelta(seconds=60)


def choose_end(name: str) -> None:
    """Do this once all is made; an empty name for nothing, which also stops what is about to be done.

    Raises ``SettingsRefused`` where the settings name no such thing, ``PlanError`` where nothing is to be made.
    """
    if name and name not in ends():
        raise SettingsRefused("The settings name no “{name}”.", name=name, advice="")
    if name and not _is_busy():
        raise PlanError("Nothing is to be made that this could wait for.", advice="")
    Pace.objects.update_or_create(pk=1, defaults={"end": name, "end_at": None, "end_failed": ""})


def see_to_the_end() -> None:
    """Begin the minute once nothing is left to do, take it back where something came, and do what was chosen, once."""
    known, now = pace(), timezone.now()
    if not known.end:
        return
    if _is_busy():
        Pace.objects.filter(end_at__isnull=False).update(end_at=None)
    elif known.end_at is None:
        Pace.objects.filter(end=known.end, end_at__isnull=True).update(end_at=now + PATIENCE)
    elif now >= known.end_at and Pace.objects.filter(end=known.end, end_at=known.end_at).update(end="", end_at=None):
        _do(known.end)


def _do(name: str) -> None:
    argv = ends().get(name)
    if not argv:
        return
    log.info("all is made: %s", name)
    carry_out(argv, name)


def _is_busy() -> bool:
    """Whether anything of Rheon is under way, or waits to be."""
    jobs = Job.objects.filter(IN_WORK | Q(state=JobState.WAITING))
    sources = Source.objects.filter(state__in=(SourceState.WAITING, SourceState.READING))
    tasks = DBTaskResult.objects.filter(status__in=("READY", "RUNNING"))
    return jobs.exists() or sources.exists() or tasks.exists()
