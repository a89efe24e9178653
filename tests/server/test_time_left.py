"""What is told of the time that jobs take: by how it went here lately, and by how each of them goes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from rheon.core.encoding import Progress
from rheon.server.home.actions.setting_up import keep_pace
from rheon.server.shelf.models import Source
from rheon.server.worklist.course import Course
from rheon.server.worklist.estimates import times_expected
from rheon.server.worklist.models import Job, JobState

Api = Callable[..., Any]
EXPECTED = {
    "size_bytes": 10**6, "size_low_bytes": 9 * 10**5, "size_high_bytes": 2 * 10**6,
    "time_s": 22.0, "time_low_s": 15.0, "time_high_s": 33.0, "checking_s": 2.0,
}  # fmt: skip


def job(**facts: Any) -> Job:
    known: dict[str, Any] = {"title_name": "Kite day", "device_names": ["Phone"], "folder": "/tmp"}
    return Job.objects.create(**{**known, "expected": EXPECTED, "token": str(Job.objects.count()), **facts})


def done(*made_s: float, **facts: Any) -> None:
    for number, seconds in enumerate(made_s):
        ended = timezone.now() - timedelta(minutes=number)
        job(**{"state": JobState.DONE, "ended": ended, "started": ended, "made_s": seconds, **facts})


@pytest.mark.parametrize(
    ("made", "times"),
    [((), 1.0), ((44.0,), 2 ** (1 / 3)), ((44.0,) * 6, 2**0.75), ((44.0, 44.0, 4400.0), 2**0.6), ((10**9,) * 20, 10.0)],
)
@pytest.mark.django_db
def test_a_machine_is_as_quick_as_it_was_lately_the_surer_the_more_was_made(
    made: Sequence[float], times: float
) -> None:
    done(*made)
    # what says nothing of how quick it is
    done(5.0, expected={**EXPECTED, "time_s": 1.0})
    done(500.0, kind="copy_disc")
    job(state=JobState.FAILED, made_s=900.0)
    assert times_expected() == pytest.approx(times)


@pytest.mark.django_db
def test_what_waits_takes_as_long_as_things_take_here_and_what_ended_says_what_was_expected(api: Api) -> None:
    done(*[44.0] * 6)
    waits = job()
    times = times_expected()
    listed = {one["id"]: one for one in api("get", "worklist")[1]["jobs"]}
    shown = listed[waits.pk]
    assert shown["expected_s"] == shown["left_s"] == pytest.approx(22 * times)
    assert (shown["left_low_s"], shown["left_high_s"]) == pytest.approx((15 * times, 33 * times))
    ended = [one for one in listed.values() if one["state"] == "done"]
    assert {(one["expected_s"], one["left_s"]) for one in ended} == {(22.0, None)}
    total = api("get", "worklist")[1]["total"]
    assert (total["left_s"], total["left_low_s"]) == pytest.approx((22 * times, 15 * times))


def test_the_bench_expects_what_things_take_here_and_that_does_not_count_twice(
    shelf: Callable[[str], Source], household: list[int], api: Api
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    cell = {"title_id": film.pk, "target_id": household[1]}

    def expected() -> tuple[float, float]:
        (in_table,) = [
            one for one in api("get", f"bench/cells?titles={film.pk}")[1] if one["target_id"] == household[1]
        ]
        sheet = api("get", f"bench/plans/{film.pk}/{household[1]}")[1]
        return in_table["estimate"]["time_s"], sheet["estimate"]["time_s"]

    before = expected()
    keep_pace(2.0)
    assert expected() == pytest.approx([2 * one for one in before])
    keep_pace(2.05)
    assert expected() == pytest.approx([2 * one for one in before]), "as good as the same"
    api("post", "worklist/jobs", {"cells": [cell]})
    stored = Job.objects.get().expected
    assert (stored["pace"], stored["time_s"]) == (2.0, pytest.approx(2 * before[0]))
    # a machine that takes twice as long as is usual, which was known before each of them
    done(*[44.0] * 6, expected={**EXPECTED, "time_s": 44.0, "pace": 2.0})
    assert times_expected() == pytest.approx(2**0.75)


@pytest.mark.django_db
def test_a_job_is_foreseen_by_how_it_goes_and_anew_where_its_making_begins_anew() -> None:
    made = job(state=JobState.RUNNING)
    course = Course(made)

    def at(worked_s: float, fraction: float) -> Job:
        course.told = 0.0
        course.on_progress(Progress(done=100 * fraction, total=100, size_bytes=1, speed=1.0, worked_s=worked_s))
        return Job.objects.get(pk=made.pk)

    # it goes at half the speed that was expected
    for step in range(1, 11):
        row = at(2 * step, step * 0.05)
    assert row.left_s == pytest.approx(2 * (20 * 0.5 + 2), rel=0.02)
    assert row.left_s and row.left_low_s and row.left_high_s
    assert row.left_low_s < row.left_s < row.left_high_s < 2 * row.left_s
    # its file did not pass: another one is made, at the speed that was expected
    for step in range(1, 21):
        row = at(step, step * 0.05)
    assert (row.fraction, row.stage) == (1.0, "checking")
    assert row.left_s == pytest.approx(2, rel=0.02)
    # half of the check took a second and a half
    course.on_progress(Progress(done=100, total=100, size_bytes=1, speed=0.0, worked_s=21.5, checked=0.5))
    row.refresh_from_db()
    assert (row.stage, row.left_s) == ("checking", pytest.approx(1.5, rel=0.05))
