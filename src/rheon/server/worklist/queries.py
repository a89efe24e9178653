"""Reading the Worklist."""

from __future__ import annotations

import heapq
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.db.models import Count, Max, Q, QuerySet

from rheon.core.encoding import Left
from rheon.core.media import mark_of
from rheon.core.planning import Estimate
from rheon.core.system import cores, power

from . import documents
from .ends import ends
from .estimates import read_expected, times_expected
from .kinds import KINDS
from .machine import DAY_BEGINS, DAY_ENDS, cores_where_room, leaves_room, most_at_once, spared_for
from .models import AT_REST, ENDED, IN_WORK, Job, JobState, MachineShare, Pace
from .pace import pace
from .room import SPARE_BYTES, Room

MOST_ENDED = 200
NOTED_BYTES = 64 << 20
"""So much more or less free space is worth a new look at what fits."""
SHOWN = (
    "id", "title_id", "title_name", "device_names", "summary", "state", "stage", "fraction", "done", "duration_s",
    "kind", "speed", "written_bytes", "error_message", "note", "started", "ended", "added",
)  # fmt: skip
NEEDED = (
    *SHOWN, "title__source__name", "worker", "target_ids", "made_s", "left_s", "left_low_s", "left_high_s", "folder",
    "needs_bytes", "expected", "error_code", "accept_loss",
)  # fmt: skip
LOSSES = ("loss_not_accepted", "not_whole")
"""What a yes to the loss mends."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Share:
    """What a job adds to the total: the seconds it was expected to take, those that are left, and how far it is."""

    expected_s: float
    left: Left
    fraction: float


def worklist_document() -> documents.Worklist:
    """What is being made, what waits, what ended (newest first), and a total over all that is still to do."""
    times, room, now = times_expected(), Room(), pace()
    rows = [row for which in (IN_WORK, AT_REST) for row in _rows(which)]
    active = [_job(row, times, room) for row in rows]
    ended = [_job(row, times) for row in _rows(Q(state__in=ENDED)).order_by("-ended", "-id")[:MOST_ENDED]]
    to_do = [job for job in active if job.state != JobState.PAUSED]
    return documents.Worklist(
        held=now.held,
        hours=_hours(now),
        machine=_machine(now),
        shortages=_shortages(rows, room),
        end=documents.End(choices=list(ends()), chosen=now.end, at=now.end_at, failed=now.end_failed),
        jobs=[*active, *ended],
        total=_total(map(_share, to_do), now.at_once),
    )


def _shortages(rows: Iterable[Mapping[str, Any]], room: Room) -> list[documents.Shortage]:
    """What all that is to be made takes, where there is less."""
    needed: Counter[str] = Counter()
    for row in rows:
        left = max(read_expected(row["expected"]).size_bytes, row["needs_bytes"]) - row["written_bytes"]
        needed[row["folder"]] += max(0, left)
    return [
        documents.Shortage(folder=Path(folder).name, needed_bytes=bytes_, free_bytes=free)
        for folder, bytes_ in needed.items()
        if (free := room.free_bytes(folder)) is not None and free < bytes_ + SPARE_BYTES
    ]


def _hours(now: Pace) -> documents.OpenHours | None:
    hours, changes = now.hours, now.next_change
    if hours is None or changes is None:
        return None
    return documents.OpenHours(begins=hours.begins, ends=hours.ends, zone=hours.zone, open=now.is_open, changes=changes)


def _machine(now: Pace) -> documents.Machine:
    return documents.Machine(
        cores=len(cores()),
        most_at_once=most_at_once(),
        at_once=now.at_once,
        share=MachineShare(now.share),
        used=cores_where_room(now),
        chosen=now.cores is not None,
        leaves_room=leaves_room(now),
        day_begins=DAY_BEGINS,
        day_ends=DAY_ENDS,
        has_battery=power().has_battery,
        battery_minded=not now.battery_too,
        others_minded=now.only_idle,
        spared=spared_for(now),
    )


def running_jobs() -> tuple[list[documents.Job], documents.Total]:
    """The jobs that are being made, and the total: what changes while a page looks on."""
    times = times_expected()
    running = [_job(row, times) for row in _rows(Q(state=JobState.RUNNING))]
    stored = Job.objects.filter(state=JobState.WAITING).values_list("expected", flat=True)
    expected = [_foreseen(read_expected(one), times) for one in stored]
    waiting = [_Share(expected_s=left.left_s, left=left, fraction=0.0) for left in expected]
    return running, _total([*map(_share, running), *waiting], pace().at_once)


def worklist_mark() -> str:
    """Changes when jobs come, go, are put in another order, pass into another state, or may find room."""
    order = mark_of(*Job.objects.filter(AT_REST).values_list("id", flat=True))
    seen = Job.objects.aggregate(count=Count("id"), last=Max("id"), ended=Max("ended"))
    states = dict(Job.objects.order_by().values_list("state").annotate(Count("id")))
    now = pace()
    when = (now.held, now.hours, now.is_open, now.end, now.end_at, now.end_failed)
    machine = tuple(_machine(now))
    room = Room()
    folders = Job.objects.filter(AT_REST).order_by("folder").values_list("folder", flat=True).distinct()
    free = [(room.free_bytes(folder) or 0) // NOTED_BYTES for folder in folders]
    return "|".join(map(str, (order, *seen.values(), sorted(states.items()), *when, *machine, free)))


def _rows(which: Q) -> QuerySet[Job, dict[str, Any]]:
    """Only what the list shows, without building rows into objects."""
    rows: QuerySet[Job, dict[str, Any]] = Job.objects.filter(which).values(*NEEDED)
    return rows


def _job(row: Mapping[str, Any], times: float, room: Room | None = None) -> documents.Job:
    expected, kind = read_expected(row["expected"]), KINDS[row["kind"]]
    ended = row["ended"]
    in_work = row["state"] == JobState.RUNNING or (row["state"] == JobState.PAUSED and row["worker"] != "")
    left = None if ended else _left(row) or _foreseen(expected, times)
    return documents.Job(
        **{key: row[key] for key in SHOWN},
        in_work=in_work,
        source_name=row["title__source__name"],
        target_id=next(iter(row["target_ids"]), None),
        unit=kind.unit,
        whole=kind.whole(row["duration_s"], expected.size_bytes),
        left_s=left.left_s if left else None,
        left_low_s=left.low_s if left else None,
        left_high_s=left.high_s if left else None,
        expected_bytes=expected.size_bytes,
        expected_s=expected.time_s if ended else expected.at_pace(times).time_s,
        short_bytes=room.short_bytes(row["folder"], expected, row["needs_bytes"]) if room and not in_work else 0,
        made_in_s=_made_in_s(row),
        may_accept_loss=row["error_code"] in LOSSES and not row["accept_loss"],
    )


def _made_in_s(row: Mapping[str, Any]) -> float | None:
    """What making and checking took; of what was made by an older Rheon all that passed."""
    if row["made_s"] is not None or not (row["ended"] and row["started"]):
        return row["made_s"]  # type: ignore[no-any-return]
    passed_s: float = (row["ended"] - row["started"]).total_seconds()
    return passed_s


def _left(row: Mapping[str, Any]) -> Left | None:
    """What is left of what is being made, as far as that is known."""
    left_s, low_s, high_s = row["left_s"], row["left_low_s"], row["left_high_s"]
    return None if None in (left_s, low_s, high_s) else Left(left_s=left_s, low_s=low_s, high_s=high_s)


def _foreseen(expected: Estimate, times: float) -> Left:
    """What is left of what nobody has begun, on a machine that takes so many times what is expected."""
    here = expected.at_pace(times)
    return Left(left_s=here.time_s, low_s=here.time_low_s, high_s=here.time_high_s)


def _share(job: documents.Job) -> _Share:
    left = Left(left_s=job.left_s or 0.0, low_s=job.left_low_s or 0.0, high_s=job.left_high_s or 0.0)
    return _Share(expected_s=job.expected_s, left=left, fraction=job.fraction)


def _total(shares: Iterable[_Share], at_once: int) -> documents.Total:
    """Over all that is to do, each taken up by whoever is free first."""
    jobs = list(shares)
    whole = sum(job.expected_s for job in jobs)
    done = sum(job.expected_s * job.fraction for job in jobs)
    return documents.Total(
        count=len(jobs),
        fraction=done / whole if whole else 0.0,
        left_s=_beside((job.left.left_s for job in jobs), at_once),
        # one machine makes all of them: where it is slower than was expected, it is so for each
        left_low_s=_beside((job.left.low_s for job in jobs), at_once),
        left_high_s=_beside((job.left.high_s for job in jobs), at_once),
    )


def _beside(lengths_s: Iterable[float], at_once: int) -> float:
    """When the last is done of what is taken up in its order by so many at once."""
    free_s = [0.0] * max(1, at_once)
    for length_s in lengths_s:
        heapq.heapreplace(free_s, free_s[0] + length_s)
    return max(free_s)
