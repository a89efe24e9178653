"""Picking up jobs whose worker is gone: what was finished is taken in, everything else goes on by itself."""

from __future__ import annotations

import logging
from pathlib import Path

from django.db import transaction
from django.utils import timezone

from rheon.core.encoding import part_path, remove_part
from rheon.core.errors import RheonError

from ..kinds import KINDS, Finished
from ..models import IN_WORK, Job, JobState
from .change import begun_anew
from .record import record
from .run import MOST_ATTEMPTS, deliver, in_hand

log = logging.getLogger("rheon")
ENDED_AGAIN = (
    "The worker was ended each of the {count} times that it made this. Nothing was kept. "
    "If you did not end it yourself, the machine may be short of memory."
)


def recover() -> int:
    """Take up every job that is marked as being made and that nobody carries out; returns how many."""
    lost = [job for job in Job.objects.filter(IN_WORK) if in_hand.is_lost(job.pk, job.lease)]
    for job in lost:
        if (delivered := _named_already(job)) is not None:
            deliver(job, delivered)
            continue
        remove_part(part_path(Path(job.folder), job.token))
        _again(job)
    return len(lost)


def _named_already(job: Job) -> Finished | None:
    try:
        return KINDS[job.kind].take_up(job)
    except (RheonError, OSError):
        log.exception("job %s could not be taken up where it was", job.pk)
        return None


def _again(job: Job) -> None:
    """Let it wait again in its place; not for ever, since it may be what ends the worker. What was paused stays so."""
    facts: dict[str, object] = {**begun_anew(), "state": JobState.WAITING}
    if job.stop_requested:
        facts |= {"state": JobState.STOPPED, "ended": timezone.now()}
    elif job.state == JobState.PAUSED:
        facts |= {"state": JobState.PAUSED}
    elif job.attempts >= MOST_ATTEMPTS:
        message = ENDED_AGAIN.format(count=job.attempts)
        facts |= {"state": JobState.INTERRUPTED, "ended": timezone.now()}
        facts |= {"error_code": "interrupted", "error_message": message}
    with transaction.atomic():
        mended = job.own_row().filter(IN_WORK, state=job.state).update(**facts)
        if mended and "ended" in facts:
            record(Job.objects.get(pk=job.pk))
