"""What is done to jobs on the list, one or many: stopped, tried again, paused, gone on with, removed."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Collection, Mapping

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from ..documents import JobVerb
from ..models import AT_REST, IN_WORK, WITHOUT_FILE, Job, JobState
from ..tasks import run_jobs_task

JobIds = Collection[int]


def stop(job_ids: JobIds) -> None:
    """Stop jobs: at once where they wait, within a second where they are made."""
    jobs = Job.objects.filter(pk__in=job_ids)
    jobs.filter(AT_REST).update(state=JobState.STOPPED, ended=timezone.now())
    jobs.filter(IN_WORK).update(stop_requested=True)


def pause(job_ids: JobIds) -> None:
    """Have jobs stand still: where they are in their making, or before it begins."""
    jobs = Job.objects.filter(pk__in=job_ids)
    jobs.filter(state=JobState.WAITING).update(state=JobState.PAUSED, worker="")
    jobs.filter(state=JobState.RUNNING).update(state=JobState.PAUSED)


def go_on(job_ids: JobIds) -> None:
    """Have paused jobs go on where they stood; what stood nowhere yet, or whose worker is gone, waits in its place."""
    paused = Job.objects.filter(pk__in=job_ids, state=JobState.PAUSED)
    paused.exclude(worker="").update(state=JobState.RUNNING)
    if paused.filter(worker="").update(state=JobState.WAITING):
        transaction.on_commit(run_jobs_task.enqueue)


def retry(job_ids: JobIds) -> None:
    """Queue jobs that ended without a file once more, at the end of the list."""
    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    failed = Job.objects.filter(pk__in=job_ids, state__in=WITHOUT_FILE)
    told = {
        "state": JobState.WAITING,
        "attempts": 0,
        "needs_bytes": 0,
        "ended": None,
        "error_code": "",
        "error_message": "",
    }
    for place, pk in enumerate(failed.order_by("position", "id").values_list("pk", flat=True), start=last + 1):
        failed.filter(pk=pk).update(**begun_anew(), **told, position=place)
    transaction.on_commit(run_jobs_task.enqueue)


def accept_loss(job_ids: JobIds) -> None:
    """Try again, and make what is there of a source whose end is missing."""
    Job.objects.filter(pk__in=job_ids, state__in=WITHOUT_FILE).update(accept_loss=True)
    retry(job_ids)


def remove(job_ids: JobIds) -> None:
    """Take jobs off the list; what is being made is stopped first and stays listed."""
    Job.objects.filter(pk__in=job_ids).exclude(IN_WORK).delete()
    stop(job_ids)


def begun_anew() -> dict[str, object]:
    """The fields of a job that nobody has begun; whoever was at it has another token."""
    return {
        "token": uuid.uuid4().hex,
        "worker": "",
        "stop_requested": False,
        "delivery_document": None,
        "note": "",
        "stage": "",
        "fraction": 0,
        "done": 0,
        "speed": 0,
        "written_bytes": 0,
        "left_s": None,
        "left_low_s": None,
        "left_high_s": None,
        "started": None,
    }


VERBS: Mapping[JobVerb, Callable[[JobIds], None]] = {
    JobVerb.STOP: stop,
    JobVerb.PAUSE: pause,
    JobVerb.GO_ON: go_on,
    JobVerb.RETRY: retry,
    JobVerb.ACCEPT_LOSS: accept_loss,
    JobVerb.REMOVE: remove,
}


def change(job_ids: JobIds, verb: JobVerb) -> None:
    """Do it to all of them that it can be done to, together."""
    with transaction.atomic():
        VERBS[verb](job_ids)
