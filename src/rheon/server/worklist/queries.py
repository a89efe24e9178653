"""Reading the Worklist."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Max, Q, QuerySet

from .kinds import KINDS
from .models import ENDED, Job, JobState

MOST_ENDED = 200
SHOWN = (
    "id", "title_id", "title_name", "device_names", "summary", "state", "stage", "fraction", "done", "duration_s",
    "kind", "speed", "written_bytes", "left_s", "error_message",
)  # fmt: skip
LOSSES = ("loss_not_accepted", "not_whole")
"""What a yes to the loss mends."""


def worklist_document() -> dict[str, Any]:
    """What is being made, what waits, what ended (newest first), and a total over all that is still to do."""
    active = [_job(row) for row in _rows(~Q(state__in=ENDED))]
    ended = [_job(row) for row in _rows(Q(state__in=ENDED)).order_by("-ended", "-id")[:MOST_ENDED]]
    return {"jobs": [*active, *ended], "total": _total(active)}


def running_document() -> dict[str, Any]:
    """The jobs that are being made, and the total: what changes while a page looks on."""
    running = [_job(row) for row in _rows(Q(state=JobState.RUNNING))]
    waiting = Job.objects.filter(state=JobState.WAITING).values_list("expected", flat=True)
    return {"running": running, "total": _total([*running, *({"fraction": 0.0, **_times(one)} for one in waiting)])}


def worklist_mark() -> str:
    """Changes when jobs come, go, or pass into another state."""
    seen = Job.objects.aggregate(count=Count("id"), last=Max("id"), ended=Max("ended"), place=Max("position"))
    states = dict(Job.objects.order_by().values_list("state").annotate(Count("id")))
    return f"{seen['count']}|{seen['last']}|{seen['ended']}|{seen['place']}|{sorted(states.items())}"


def _rows(which: Q) -> QuerySet[Job, dict[str, Any]]:
    """Only what the list shows, without building rows into objects."""
    return Job.objects.filter(which).values(*SHOWN, "expected", "error_code", "accept_loss", "started", "ended")


def _job(row: dict[str, Any]) -> dict[str, Any]:
    expected, started, ended = row["expected"], row["started"], row["ended"]
    kind = KINDS[row["kind"]]
    return {
        **{key: row[key] for key in SHOWN},
        **_times(expected),
        "unit": kind.unit.value,
        "whole": kind.whole(row["duration_s"], expected.get("size_bytes", 0)),
        "left_s": _left(row, float(expected.get("time_s", 0.0))),
        "expected_bytes": expected.get("size_bytes", 0),
        "made_in_s": (ended - started).total_seconds() if ended and started else None,
        "may_accept_loss": row["error_code"] in LOSSES and not row["accept_loss"],
        "started": started.isoformat() if started else None,
        "ended": ended.isoformat() if ended else None,
    }


def _times(expected: dict[str, Any]) -> dict[str, float]:
    """How long a job that waits is expected to take."""
    time_s = float(expected.get("time_s", 0.0))
    low_s, high_s = float(expected.get("time_low_s", 0.0)), float(expected.get("time_high_s", 0.0))
    return {"expected_s": time_s, "expected_low_s": low_s, "expected_high_s": high_s, "left_s": time_s}


def _left(row: dict[str, Any], expected_s: float) -> float | None:
    """Seconds left: by what was planned at first, by what is measured as the work goes on."""
    if row["state"] == JobState.WAITING:
        return expected_s
    if row["state"] != JobState.RUNNING:
        return None
    planned, done = expected_s * (1 - row["fraction"]), row["fraction"]
    return planned if row["left_s"] is None else planned * (1 - done) + float(row["left_s"]) * done


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
