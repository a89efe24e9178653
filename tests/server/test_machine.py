"""How much of the machine the making takes: cores, files at once, and what it does on battery and in heat."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from django.db import connections
from django.utils import timezone

from rheon.core.system import Power, cores, keep_to_cores
from rheon.server.shelf.models import Source
from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist import machine, queries
from rheon.server.worklist.actions import machine as minding
from rheon.server.worklist.actions.run import run_all
from rheon.server.worklist.machine import cores_now
from rheon.server.worklist.models import Job, JobState, MachineUse, Pace
from rheon.server.worklist.pace import pace
from rheon.server.worklist.queries import _beside, worklist_mark
from rheon.server.worklist.tasks import run_jobs_task

Api = Callable[..., Any]
ALL = {"share": "all", "at_once": 1, "zone": "UTC"}
DRAINING, FED = Power(has_battery=True, on_battery=True), Power(has_battery=True, on_battery=False)


@pytest.fixture
def queue(shelf: Callable[[str], Source], household: list[int], api: Api) -> Callable[[int], list[int]]:
    title = shelf("MARRAM_NIGHTS").titles.get(number=1)
    title.survey_failed = True
    title.samples = {"coarse_quality": 27, "coarse_bits": 0.05, "fine_quality": 17, "fine_bits": 0.2}
    title.save()

    def add(count: int) -> list[int]:
        _, said = api("post", "worklist/jobs", {"cells": [{"title_id": title.pk, "target_id": household[1]}]})
        first = Job.objects.get(pk=said["job_ids"][0])
        for _ in range(count - 1):
            first.pk, first.token, first.position = None, f"{first.token[:30]}{time.monotonic_ns()}"[:40], 5
            first._state.adding = True
            first.save()
        return list(Job.objects.order_by("id").values_list("pk", flat=True))

    return add


@pytest.fixture
def working() -> Iterator[Callable[[], None]]:
    """The convert worker, beside the test, until nothing waits."""
    started: list[threading.Thread] = []

    def work() -> None:
        try:
            run_all()
        finally:
            connections.close_all()

    def start() -> None:
        started.append(threading.Thread(target=work))
        started[-1].start()

    yield start
    Job.objects.update(stop_requested=True)
    for thread in started:
        thread.join(timeout=60)
    keep_to_cores(len(cores()))


def until(true: Callable[[], bool], most_s: float = 60.0) -> None:
    end = time.monotonic() + most_s
    while not true():
        assert time.monotonic() < end
        time.sleep(0.05)


def in_state(state: JobState) -> int:
    return Job.objects.filter(state=state).count()


def engines() -> list[set[int]]:
    """The cores that each engine of this process may use."""
    running = [int(path.name) for path in Path("/proc").iterdir() if path.name.isdigit()]
    return [os.sched_getaffinity(pid) for pid in running if stat_of(pid) == ("ffmpeg", os.getpid())]


def stat_of(pid: int) -> tuple[str, int]:
    """Name and parent of a process (proc_pid_stat(5))."""
    try:
        head, _, tail = Path(f"/proc/{pid}/stat").read_text().rpartition(")")
    except OSError:
        return "", 0
    return head.partition("(")[2], int(tail.split()[1])


@pytest.mark.django_db(transaction=True)
def test_as_many_are_made_at_once_as_is_wished_even_while_it_works(
    queue: Callable[[int], list[int]], working: Callable[[], None], api: Api
) -> None:
    jobs = queue(3)
    working()
    until(lambda: in_state(JobState.RUNNING) == 1)
    time.sleep(1)
    assert in_state(JobState.RUNNING) == 1
    assert api("put", "worklist/machine", {**ALL, "at_once": 2})[0] == 204
    until(lambda: in_state(JobState.RUNNING) == 2)
    until(lambda: len(engines()) == 2)
    api("post", "worklist/changes", {"job_ids": jobs[1:], "verb": "stop"})
    until(lambda: in_state(JobState.DONE) == 1, 120)
    assert in_state(JobState.STOPPED) == 2


@pytest.mark.django_db(transaction=True)
def test_what_is_being_made_is_kept_to_some_cores_at_once_and_gets_them_back(
    queue: Callable[[int], list[int]], working: Callable[[], None], api: Api
) -> None:
    if len(cores()) < 2:
        pytest.skip("this machine has one core")
    queue(1)
    working()
    until(lambda: engines() == [set(cores())])
    api("put", "worklist/machine", {**ALL, "share": "leave room", "used": 1})
    until(lambda: engines() == [{cores()[-1]}], 10)
    api("put", "worklist/machine", ALL)
    until(lambda: engines() == [set(cores())], 10)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("cause", ["battery", "heat"])
def test_on_battery_and_in_heat_everything_stands_still_and_nothing_begins(
    cause: str,
    queue: Callable[[int], list[int]],
    working: Callable[[], None],
    api: Api,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    strained = threading.Event()
    monkeypatch.setattr(machine, "power", lambda: DRAINING if cause == "battery" and strained.is_set() else FED)
    monkeypatch.setattr(queries, "power", lambda: DRAINING if cause == "battery" and strained.is_set() else FED)
    monkeypatch.setattr(minding, "is_hot", lambda was: cause == "heat" and strained.is_set())
    (job, _) = queue(2)
    working()
    until(lambda: Job.objects.get(pk=job).fraction > 0)
    mark = worklist_mark()
    strained.set()
    time.sleep(1.5)
    stood = Job.objects.get(pk=job).fraction
    time.sleep(1.5)
    assert Job.objects.get(pk=job).fraction == stood < 1
    _, said = api("get", "worklist")
    assert (said["machine"]["on_battery"], said["machine"]["hot"]) == (cause == "battery", cause == "heat")
    assert worklist_mark() != mark
    assert run_jobs_task not in [task for task, _ in _wanted()]
    if cause == "battery":
        assert api("put", "worklist/machine/battery", {"minded": False})[0] == 204
    else:
        strained.clear()
    until(lambda: Job.objects.get(pk=job).fraction > stood)


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("share", "hour", "used"),
    [
        (MachineUse.ALL, 12, 8),
        (MachineUse.LEAVE_ROOM, 23, 3),
        (MachineUse.BY_DAY, 6, 8),
        (MachineUse.BY_DAY, 7, 3),
        (MachineUse.BY_DAY, 21, 3),
        (MachineUse.BY_DAY, 22, 8),
    ],
)
def test_room_is_left_always_or_by_day_where_the_person_is(
    share: MachineUse, hour: int, used: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(machine, "cores", lambda: tuple(range(8)))
    # in Kathmandu, 5 h 45 min ahead of UTC
    moment = datetime(2026, 5, 4, (hour - 6) % 24, 15, tzinfo=UTC)
    monkeypatch.setattr(timezone, "now", lambda: moment)
    assert cores_now(Pace(share=share, cores=3, day_zone="Asia/Kathmandu")) == used
    if share == MachineUse.LEAVE_ROOM:
        assert cores_now(Pace(share=share)) == 4
        assert cores_now(Pace(share=share, cores=12)) == 8


def test_what_the_machine_does_not_have_is_refused(db: None, api: Api) -> None:
    refused = {
        "cores": {**ALL, "used": len(cores()) + 1},
        "at once": {**ALL, "at_once": 9},
        "time zone": {**ALL, "zone": "Mars/Olympus"},
    }
    for word, wanted in refused.items():
        status, said = api("put", "worklist/machine", wanted)
        assert status == 400 and word in said["message"], word
    assert api("put", "worklist/machine", {**ALL, "at_once": 0})[0] == 400
    assert (pace().at_once, pace().share) == (1, MachineUse.ALL)


def test_the_time_left_of_all_is_when_the_last_is_done_of_what_is_taken_up_by_so_many() -> None:
    lengths = [30.0, 10.0, 10.0, 25.0]
    assert [_beside(lengths, count) for count in (1, 2, 4)] == [75.0, 45.0, 30.0]
    assert _beside([], 2) == 0
