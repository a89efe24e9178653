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
from tests.instruments.waiting import until

from rheon.core.system import Power, cores, keep_to_cores
from rheon.server.shelf.models import Source
from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist import machine, queries
from rheon.server.worklist.actions import machine as minding
from rheon.server.worklist.actions.run import run_all
from rheon.server.worklist.machine import cores_now
from rheon.server.worklist.models import Job, JobState, MachineShare, Pace
from rheon.server.worklist.pace import pace
from rheon.server.worklist.queries import _beside, worklist_mark
from rheon.server.worklist.tasks import run_jobs_task

Api = Callable[..., Any]
ALL = {"share": "all", "at_once": 1, "zone": "UTC"}
DRAINING, FED = Power(has_battery=True, on_battery=True), Power(has_battery=True, on_battery=False)


class Wanted:
    """Other programs that want the machine just when they are told to."""

    def __init__(self, now: threading.Event) -> None:
        self._now = now

    def are_busy(self, was_busy: bool) -> bool:
        return self._now.is_set()


@pytest.fixture
def queue(shelf: Callable[[str], Source], household: list[int], api: Api) -> Callable[..., list[int]]:
    """Put titles of a disc on the Worklist by their numbers: the first is long, the fourth short."""
    source = shelf("MARRAM_NIGHTS")
    looked = {"coarse_quality": 27, "coarse_bits": 0.05, "fine_quality": 17, "fine_bits": 0.2}
    source.titles.update(survey_failed=True, samples=looked)

    def add(*numbers: int) -> list[int]:
        cells = [{"title_id": source.titles.get(number=n).pk, "target_id": household[1]} for n in numbers]
        ids: list[int] = api("post", "worklist/jobs", {"cells": cells})[1]["job_ids"]
        return ids

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


def state_of(job: int) -> str:
    return Job.objects.get(pk=job).state


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
    queue: Callable[..., list[int]], working: Callable[[], None], api: Api
) -> None:
    film, *extras = queue(1, 4, 3)
    working()
    until(lambda: state_of(film) == JobState.RUNNING)
    time.sleep(1)
    assert [state_of(job) for job in extras] == [JobState.WAITING] * 2
    assert api("put", "worklist/machine", {**ALL, "at_once": 2})[0] == 204
    until(lambda: len(engines()) == 2)
    until(lambda: [state_of(job) for job in extras] == [JobState.DONE] * 2, 240)
    assert state_of(film) == JobState.RUNNING


@pytest.mark.django_db(transaction=True)
def test_what_is_being_made_is_kept_to_some_cores_at_once_and_gets_them_back(
    queue: Callable[..., list[int]], working: Callable[[], None], api: Api
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
@pytest.mark.parametrize("cause", ["battery", "heat", "others"])
def test_on_battery_in_heat_and_while_others_want_the_machine_everything_stands_still_and_nothing_begins(
    cause: str,
    queue: Callable[..., list[int]],
    working: Callable[[], None],
    api: Api,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    strained = threading.Event()
    monkeypatch.setattr(machine, "power", lambda: DRAINING if cause == "battery" and strained.is_set() else FED)
    monkeypatch.setattr(queries, "power", lambda: DRAINING if cause == "battery" and strained.is_set() else FED)
    monkeypatch.setattr(minding, "is_hot", lambda was: cause == "heat" and strained.is_set())
    if cause == "others":
        assert api("put", "worklist/machine/others", {"minded": True})[0] == 204
        monkeypatch.setattr(minding, "others", lambda: Wanted(strained))
    job, _ = queue(1, 4)
    working()
    until(lambda: Job.objects.get(pk=job).fraction > 0)
    mark = worklist_mark()
    strained.set()
    time.sleep(1.5)
    stood = Job.objects.get(pk=job).fraction
    time.sleep(1.5)
    assert Job.objects.get(pk=job).fraction == stood < 1
    _, said = api("get", "worklist")
    assert said["machine"]["spared"] == cause
    assert worklist_mark() != mark
    assert run_jobs_task not in [task for task, _ in _wanted()]
    if cause != "heat":
        assert api("put", f"worklist/machine/{cause}", {"minded": False})[0] == 204
    else:
        strained.clear()
    until(lambda: Job.objects.get(pk=job).fraction > stood)


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("share", "hour", "used"),
    [
        (MachineShare.ALL, 12, 8),
        (MachineShare.LEAVE_ROOM, 23, 3),
        (MachineShare.BY_DAY, 6, 8),
        (MachineShare.BY_DAY, 7, 3),
        (MachineShare.BY_DAY, 21, 3),
        (MachineShare.BY_DAY, 22, 8),
    ],
)
def test_room_is_left_always_or_by_day_where_the_person_is(
    share: MachineShare, hour: int, used: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(machine, "cores", lambda: tuple(range(8)))
    # in Kathmandu, 5 h 45 min ahead of UTC
    moment = datetime(2026, 5, 4, (hour - 6) % 24, 15, tzinfo=UTC)
    monkeypatch.setattr(timezone, "now", lambda: moment)
    assert cores_now(Pace(share=share, cores=3, day_zone="Asia/Kathmandu")) == used
    if share == MachineShare.LEAVE_ROOM:
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
    assert (pace().at_once, pace().share) == (1, MachineShare.ALL)


def test_the_time_left_of_all_is_when_the_last_is_done_of_what_is_taken_up_by_so_many() -> None:
    lengths = [30.0, 10.0, 10.0, 25.0]
    assert [_beside(lengths, count) for count in (1, 2, 4)] == [75.0, 45.0, 30.0]
    assert _beside([], 2) == 0


@pytest.mark.django_db(transaction=True)
def test_another_file_begins_beside_others_only_where_there_is_memory_for_it(
    queue: Callable[..., list[int]], working: Callable[[], None], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    left = [100 << 20]
    monkeypatch.setattr(machine, "available_bytes", lambda: left[0])
    film, extra = queue(1, 4)
    api("put", "worklist/machine", {**ALL, "at_once": 2})
    working()
    until(lambda: state_of(film) == JobState.RUNNING)
    time.sleep(1.5)
    assert state_of(extra) == JobState.WAITING, "one is always made, another waits for memory"
    left[0] = 4 << 30
    until(lambda: state_of(extra) == JobState.RUNNING)
