"""What waits is made in the order that somebody gave it."""

from __future__ import annotations

import random
from collections.abc import Callable
from itertools import permutations
from typing import Any

import pytest

from rheon.server.worklist.actions.order import move_jobs
from rheon.server.worklist.actions.run import _claim
from rheon.server.worklist.models import Job, JobState
from rheon.server.worklist.queries import worklist_mark

Api = Callable[..., Any]


@pytest.fixture
def waiting(db: None) -> list[int]:
    """Seven jobs that wait, two of them samples that came before all others, among some that do not."""
    facts: dict[str, Any] = {"title_name": "Kite day", "device_names": ["Phone"], "folder": "/tmp"}
    for state in (JobState.RUNNING, JobState.DONE):
        Job.objects.create(**facts, state=state, position=3, token=state)
    jobs = [Job.objects.create(**facts, position=n if n < 5 else 0, token=str(n)) for n in range(7)]
    return [job.pk for job in sorted(jobs, key=lambda job: (job.position, job.pk))]


def order() -> list[int]:
    return [job["id"] for job in Job.objects.filter(state=JobState.WAITING).order_by("position", "id").values("id")]


def test_no_two_orders_look_alike_to_a_page_that_follows(waiting: list[int]) -> None:
    marks = set()
    orders = list(permutations(waiting[:4]))
    for wanted in orders:
        for place, pk in enumerate(wanted):
            Job.objects.filter(pk=pk).update(position=place)
        marks.add(worklist_mark())
    assert len(marks) == len(orders)


@pytest.mark.parametrize("seed", range(4))
def test_any_jobs_go_where_they_are_put_and_all_others_keep_their_order(waiting: list[int], seed: int) -> None:
    rand = random.Random(seed)
    expected = waiting
    for _ in range(15):
        some = set(rand.sample(waiting, rand.randint(1, 4)))
        before = rand.choice([None, *waiting])
        move_jobs(some, before)
        moved, stay = ([pk for pk in expected if (pk in some) is away] for away in (True, False))
        # a row that moves itself stands for the first that follows it and stays
        follows = [] if before is None else [pk for pk in expected[expected.index(before) :] if pk not in some]
        at = stay.index(follows[0]) if follows else len(stay)
        expected = [*stay[:at], *moved, *stay[at:]]
        assert order() == expected
    assert [_claim() for _ in waiting] == expected


def test_the_list_follows_and_what_came_meanwhile_or_began_is_no_trouble(waiting: list[int], api: Api) -> None:
    running = Job.objects.get(state=JobState.RUNNING)
    before, mark = order(), worklist_mark()
    assert api("post", "worklist/order", {"job_ids": [before[4], before[2]], "before": before[0]})[0] == 204
    listed = [job["id"] for job in api("get", "worklist")[1]["jobs"] if job["state"] != "done"]
    assert listed == [running.pk, before[2], before[4], before[0], before[1], before[3], *before[5:]]
    assert worklist_mark() != mark
    # the one that it was put before has begun since: it is the next then
    api("post", "worklist/order", {"job_ids": [before[6]], "before": running.pk})
    assert order()[0] == before[6]
    known = order()
    for ids in ([running.pk], [10**9]):
        assert api("post", "worklist/order", {"job_ids": ids, "before": None})[0] == 204
    assert order() == known
    running.refresh_from_db()
    assert (running.state, running.position) == (JobState.RUNNING, 3)
    assert api("post", "worklist/order", {"job_ids": [], "before": None})[0] == 400
