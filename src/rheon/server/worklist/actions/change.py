"""Stopping, trying again, removing, and picking up after a worker that is gone."""

from __future__ import annotations

import uuid
from pathlib import Path

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from rheon.core.delivery import remove_part
from rheon.core.encoding import part_path
from rheon.core.engine import is_alive

from ..models import ENDED, Job, JobState

INTERRUPTED = "The worker was ended while it made this. Nothing was kept; it can be started again."


def request_stop(job: Job) -> None:
    """Stop a job: at once where it waits, within a second where it runs."""
    waiting = Job.objects.filter(pk=job.pk, state=JobState.WAITING)
    if not waiting.update(state=JobState.STOPPED, ended=timezone.now()):
        Job.objects.filter(pk=job.pk, state=JobState.RUNNING).update(stop_requested=True)


def retry(job: Job, *, accept_loss: bool = False) -> None:
    """Queue a job that ended without a file once more, at the end of the list; ``accept_loss`` makes what is there."""
    from ..tasks import run_next_task  # noqa: PLC0415 - tasks call these actions

    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    changed = Job.objects.filter(pk=job.pk, state__in=[s for s in ENDED if s != JobState.DONE]).update(
        state=JobState.WAITING,
        position=last + 1,
        token=uuid.uuid4().hex,
        stop_requested=False,
        accept_loss=accept_loss or job.accept_loss,
        fraction=0,
        done_s=0,
        speed=0,
        written_bytes=0,
        left_s=None,
        error_code="",
        error_message="",
        started=None,
        ended=None,
    )
    if changed:
        transaction.on_commit(run_next_task.enqueue)


def remove_job(job: Job) -> None:
    """Take a job off the list; one that runs is stopped first and stays listed."""
    if job.state == JobState.RUNNING:
        request_stop(job)
    else:
        Job.objects.filter(pk=job.pk).exclude(state=JobState.RUNNING).delete()


def recover() -> int:
    """Mark jobs whose worker is gone as interrupted and remove what they left; returns how many."""
    count = 0
    for job in Job.objects.filter(state=JobState.RUNNING):
        if is_alive(job.worker):
            continue
        remove_part(part_path(Path(job.folder), job.token))
        job.state, job.ended, job.stage, job.left_s = JobState.INTERRUPTED, timezone.now(), "", None
        job.error_code, job.error_message = "interrupted", INTERRUPTED
        job.save()
        count += 1
    return count
