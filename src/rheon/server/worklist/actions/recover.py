"""Picking up jobs whose worker is gone: what was finished is taken in, everything else goes on by itself."""

from __future__ import annotations

import logging
import uuid
from pathlib import Path

from django.utils import timezone

from rheon.core.encoding import part_path, remove_part
from rheon.core.errors import RheonError

from ..kinds import KINDS, Finished
from ..models import Job, JobState
from .run import deliver, in_hand

log = logging.getLogger("rheon")
MOST_ATTEMPTS = 3
ENDED_AGAIN = (
    "The worker was ended each of the {count} times that it made this. Nothing was kept. "
    "If you did not end it yourself, the machine may be short of memory."
)


def recover() -> int:
    """Take up every job that is marked as running and that nobody carries out; returns how many."""
    lost = [job for job in Job.objects.filter(state=JobState.RUNNING) if in_hand.is_lost(job.pk, job.lease)]
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
    """Let it wait again in its place; not for ever, since it may be what ends the worker."""
    facts: dict[str, object] = {
        "state": JobState.WAITING,
        "token": uuid.uuid4().hex,
        "delivery_document": None,
        "stage": "",
        "fraction": 0,
        "done": 0,
        "speed": 0,
        "written_bytes": 0,
        "left_s": None,
        "started": None,
    }
    if job.stop_requested:
        facts |= {"state": JobState.STOPPED, "ended": timezone.now()}
    elif job.attempts >= MOST_ATTEMPTS:
        message = ENDED_AGAIN.format(count=job.attempts)
        facts |= {"state": JobState.INTERRUPTED, "ended": timezone.now()}
        facts |= {"error_code": "interrupted", "error_message": message}
    job.own_row().filter(state=JobState.RUNNING).update(**facts)
