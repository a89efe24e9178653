"""Stopping, trying again, and removing."""

from __future__ import annotations

import uuid

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from ..models import ENDED, Job, JobState
from ..tasks import run_jobs_task


def request_stop(job: Job) -> None:
    """Stop a job: at once where it waits, within a second where it runs."""
    waiting = Job.objects.filter(pk=job.pk, state=JobState.WAITING)
    if not waiting.update(state=JobState.STOPPED, ended=timezone.now()):
        Job.objects.filter(pk=job.pk, state=JobState.RUNNING).update(stop_requested=True)


def retry(job: Job, *, accept_loss: bool = False) -> None:
    """Queue a job that ended without a file once more, at the end of the list; ``accept_loss`` makes what is there."""
    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    changed = Job.objects.filter(pk=job.pk, state__in=[s for s in ENDED if s != JobState.DONE]).update(
        state=JobState.WAITING,
        position=last + 1,
        token=uuid.uuid4().hex,
        stop_requested=False,
        attempts=0,
        delivery_document=None,
        accept_loss=accept_loss or job.accept_loss,
        fraction=0,
        done=0,
        speed=0,
        written_bytes=0,
        left_s=None,
        error_code="",
        error_message="",
        started=None,
        ended=None,
    )
    if changed:
        transaction.on_commit(run_jobs_task.enqueue)


def remove_job(job: Job) -> None:
    """Take a job off the list; one that runs is stopped first and stays listed."""
    if job.state == JobState.RUNNING:
        request_stop(job)
    else:
        Job.objects.filter(pk=job.pk).exclude(state=JobState.RUNNING).delete()
