"""Holding the list back, letting it go on, and keeping it to some hours of the day."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from ..hours import Hours, known_zone
from ..models import Job, JobState
from ..pace import pace, set_pace
from ..tasks import run_jobs_task
from .change import go_on, pause


def hold(*, pausing: bool = False) -> None:
    """Let nothing more begin; what is being made comes to its end, or stands still too (``pausing``)."""
    with transaction.atomic():
        set_pace(held=True)
        if pausing:
            pause(list(Job.objects.filter(state=JobState.RUNNING).values_list("pk", flat=True)))


def let_go() -> None:
    """Go on with the list, and with what stood still in its making."""
    with transaction.atomic():
        set_pace(held=False)
        go_on(list(Job.objects.filter(state=JobState.PAUSED).exclude(worker="").values_list("pk", flat=True)))
        transaction.on_commit(run_jobs_task.enqueue)


def keep_to(hours: Hours | None) -> None:
    """Make things in these hours only, or (``None``) at any. What is being made when they end stands still until the
    next ones begin. Raises ``SettingsRefused`` for a time zone that this machine doesn't know.
    """
    if hours is not None:
        known_zone(hours.zone)
    with transaction.atomic():
        if hours is None:
            set_pace(begins=None, ends=None, open_until=None)
        else:
            set_pace(begins=hours.begins, ends=hours.ends, zone=hours.zone, open_until=None)
        transaction.on_commit(run_jobs_task.enqueue)


def open_now() -> None:
    """Do not wait for the hours to begin: go on until they end next."""
    hours = pace().hours
    if hours is not None:
        with transaction.atomic():
            set_pace(open_until=hours.next_end(timezone.now()))
            transaction.on_commit(run_jobs_task.enqueue)
