"""Reading the Worklist."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Max, Q, QuerySet

from .models import ENDED, Job, JobState

MOST_ENDED = 200
LOSSES = ("loss_not_accepted", "not_whole")
"""What a yes to the loss mends."""


def worklist_document() -> dict[str, Any]:
    """What is being made, what waits, what ended (newest first), and a total over all that is still to do."""
    active = [_job(row) for row in _rows(~Q(state__in=ENDED))]
    ended = [_job(row) for row in _rows(Q(state__in=ENDED)).order_by("-ended", "-id")[:MOST_ENDED]]
    return {"jobs": [*active, *ended], "total": _total(active)}


def running_document() -> dict[str, Any]:
    """The jobs that are being made, and the total: what changes while a page looks on."""
    active = [_job(row) for row in _rows(~Q(state__in=ENDED))]
    return {"running": [job for job in active if job["state"] == JobState.RUNNING], "total": _total(active)}


def worklist_mark() -> str:
    """Changes when jobs come, go, or pass into another state."""
    seen = Job.objects.aggregate(count=Count("id"), last=Max("id"), ended=Max("ended"), place=Max("position"))
    states = dict(Job.objects.order_by().values_list("state").annotate(Count("id")))
    return f"{seen['count']}|{seen['last']}|{seen['ended']}|{seen['place']}|{sorted(states.items())}"


def _rows(which: Q) -> QuerySet[Job]:
    return Job.objects.filter(which).defer("title_document", "plan_document", "device_documents", "request_document")


def _job(job: Job) -> dict[str, Any]:
    expected = job.expected
    made_in = (job.ended - job.started).total_seconds() if job.ended and job.started else None
    return {
        "id": job.pk,
        "title_id": job.title_id,
        "title_name": job.title_name,
        "device_names": job.device_names,
        "summary": job.summary,
        "state": job.state,
        "stage": job.stage,
        "fraction": job.fraction,
        "done_s": job.done_s,
        "duration_s": job.duration_s,
        "speed": job.speed,
        "written_bytes": job.written_bytes,
        "left_s": _left(job, expected),
        "expected_bytes": expected.get("size_bytes", 0),
        "expected_s": expected.get("time_s", 0.0),
        "expected_low_s": expected.get("time_low_s", 0.0),
        "expected_high_s": expected.get("time_high_s", 0.0),
        "made_in_s": made_in,
        "error_message": job.error_message,
        "may_accept_loss": job.error_code in LOSSES and not job.accept_loss,
        "started": job.started.isoformat() if job.started else None,
        "ended": job.ended.isoformat() if job.ended else None,
    }


def _left(job: Job, expected: dict[str, Any]) -> float | None:
    """Seconds left: by what was planned at first, by what is measured as the work goes on."""
    if job.state == JobState.WAITING:
        return float(expected.get("time_s", 0.0))
    if job.state != JobState.RUNNING:
        return None
    planned = float(expected.get("time_s", 0.0)) * (1 - job.fraction)
    return planned if job.left_s is None else planned * (1 - job.fraction) + job.left_s * job.fraction


def _total(jobs: list[dict[str, Any]]) -> dict[str, Any]:
    left = sum(job["left_s"] or 0.0 for job in jobs)
    whole = sum(job["expected_s"] for job in jobs)
    done = sum(job["expected_s"] * job["fraction"] for job in jobs)
    # what a plan may be off by shrinks with the share that is already done
    low = sum((job["left_s"] or 0.0) * (1 - 0.3 * (1 - job["fraction"])) for job in jobs)
    high = sum((job["left_s"] or 0.0) * (1 + 0.5 * (1 - job["fraction"])) for job in jobs)
    return {
        "count": len(jobs),
        "fraction": done / whole if whole else 0.0,
        "left_s": left,
        "left_low_s": low,
        "left_high_s": high,
    }
