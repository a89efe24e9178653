"""Reading the Worklist."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import Count, F, Max, Q, QuerySet, Sum
from django.utils import timezone

from rheon.core.media.documents import load
from rheon.core.planning import Estimate

from . import documents
from .actions.pace import is_open, pace
from .kinds import KINDS
from .models import AT_REST, ENDED, IN_WORK, Job, JobState

MOST_ENDED = 200
SHOWN = (
    "id", "title_id", "title_name", "device_names", "summary", "state", "stage", "fraction", "done", "duration_s",
    "kind", "speed", "written_bytes", "error_message", "started", "ended", "added",
)  # fmt: skip
NEEDED = (
    *SHOWN,
    "title__source__name",
    "worker",
    "target_ids",
    "paused_s",
    "left_s",
    "expected",
    "error_code",
    "accept_loss",
)
LOSSES = ("loss_not_accepted", "not_whole")
"""What a yes to the loss mends."""
NOTHING = Estimate(size_bytes=0, size_low_bytes=0, size_high_bytes=0, time_s=0.0, time_low_s=0.0, time_high_s=0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Share:
    """What a job adds to the total: the seconds it was expected to take, those that are left, and how far it is."""

    expected_s: float
    left_s: float
    fraction: float


def worklist_document() -> documents.Worklist:
    """What is being made, what waits, what ended (newest first), and a total over all that is still to do."""
    active = [_job(row) for which in (IN_WORK, AT_REST) for row in _rows(which)]
    ended = [_job(row) for row in _rows(Q(state__in=ENDED)).order_by("-ended", "-id")[:MOST_ENDED]]
    to_do = [job for job in active if job.state != JobState.PAUSED]
    return documents.Worklist(
        held=pace().held, hours=_hours(), jobs=[*active, *ended], total=_total(map(_share, to_do))
    )


def _hours() -> documents.OpenHours | None:
    known, now = pace(), timezone.now()
    window = known.window
    if window is None:
        return None
    early = known.open_until if known.open_until is not None and now < known.open_until else None
    return documents.OpenHours(
        begins=window.begins,
        ends=window.ends,
        zone=window.zone,
        open=is_open(known),
        changes=early or window.next_change(now),
    )


def running_jobs() -> tuple[list[documents.Job], documents.Total]:
    """The jobs that are being made, and the total: what changes while a page looks on."""
    running = [_job(row) for row in _rows(Q(state=JobState.RUNNING))]
    expected = Job.objects.filter(state=JobState.WAITING).values_list("expected", flat=True)
    times = [read_expected(stored).time_s for stored in expected]
    waiting = [_Share(expected_s=time_s, left_s=time_s, fraction=0.0) for time_s in times]
    return running, _total([*map(_share, running), *waiting])


def worklist_mark() -> str:
    """Changes when jobs come, go, are put in another order, or pass into another state."""
    order = Sum(F("position") * F("id"), filter=AT_REST)
    resting = Count("id", filter=AT_REST)
    seen = Job.objects.aggregate(count=Count("id"), last=Max("id"), ended=Max("ended"), place=order, resting=resting)
    states = dict(Job.objects.order_by().values_list("state").annotate(Count("id")))
    now = pace()
    return "|".join(map(str, (*seen.values(), sorted(states.items()), now.held, now.window, is_open(now))))


def read_expected(stored: object) -> Estimate:
    """What was expected of a job, as it was stored; nothing where no plan said so."""
    return load(Estimate, stored) if stored else NOTHING


def _rows(which: Q) -> QuerySet[Job, dict[str, Any]]:
    """Only what the list shows, without building rows into objects."""
    rows: QuerySet[Job, dict[str, Any]] = Job.objects.filter(which).values(*NEEDED)
    return rows


def _job(row: Mapping[str, Any]) -> documents.Job:
    expected, kind = read_expected(row["expected"]), KINDS[row["kind"]]
    started, ended = row["started"], row["ended"]
    in_work = row["state"] == JobState.RUNNING or (row["state"] == JobState.PAUSED and row["worker"] != "")
    return documents.Job(
        **{key: row[key] for key in SHOWN},
        in_work=in_work,
        source_name=row["title__source__name"],
        target_id=next(iter(row["target_ids"]), None),
        unit=kind.unit,
        whole=kind.whole(row["duration_s"], expected.size_bytes),
        left_s=_left(row, expected.time_s),
        expected_bytes=expected.size_bytes,
        expected_s=expected.time_s,
        expected_low_s=expected.time_low_s,
        expected_high_s=expected.time_high_s,
        made_in_s=(ended - started).total_seconds() - row["paused_s"] if ended and started else None,
        may_accept_loss=row["error_code"] in LOSSES and not row["accept_loss"],
    )


def _left(row: Mapping[str, Any], expected_s: float) -> float | None:
    """Seconds left: by what was planned at first, by what is measured as the work goes on."""
    if row["state"] in ENDED:
        return None
    if not row["started"]:
        return expected_s
    done, measured = float(row["fraction"]), row["left_s"]
    planned = expected_s * (1 - done)
    return planned if measured is None else planned * (1 - done) + float(measured) * done


def _share(job: documents.Job) -> _Share:
    return _Share(expected_s=job.expected_s, left_s=job.left_s or 0.0, fraction=job.fraction)


def _total(shares: Iterable[_Share]) -> documents.Total:
    jobs = list(shares)
    whole = sum(job.expected_s for job in jobs)
    done = sum(job.expected_s * job.fraction for job in jobs)
    return documents.Total(
        count=len(jobs),
        fraction=done / whole if whole else 0.0,
        left_s=sum(job.left_s for job in jobs),
        # what a plan may be off by shrinks with the share that is already done
        left_low_s=sum(job.left_s * (1 - 0.3 * (1 - job.fraction)) for job in jobs),
        left_high_s=sum(job.left_s * (1 + 0.5 * (1 - job.fraction)) for job in jobs),
    )
