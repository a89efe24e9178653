"""Things are made in some hours of the day: by the clock of who said so, each job once, and never outside them."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, time, timedelta
from typing import Any

import pytest
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist.actions.run import _steered, run_next
from rheon.server.worklist.hours import Hours
from rheon.server.worklist.models import Job
from rheon.server.worklist.pace import pace
from rheon.server.worklist.queries import worklist_mark
from rheon.server.worklist.tasks import run_jobs_task

Api = Callable[..., Any]
MINUTES = st.integers(0, 24 * 60 - 1).map(lambda minute: time(minute // 60, minute % 60))
ZONES = st.sampled_from(["UTC", "Europe/Lisbon", "Asia/Kolkata", "America/St_Johns", "Pacific/Auckland"])
MOMENTS = st.datetimes(datetime(2026, 1, 1), datetime(2027, 12, 31), timezones=st.just(UTC))


@given(begins=MINUTES, ends=MINUTES, zone=ZONES, at=MOMENTS)
def test_hours_change_when_they_say_and_not_before(begins: time, ends: time, zone: str, at: datetime) -> None:
    hours = Hours(begins=begins, ends=ends, zone=zone)
    change = hours.next_change(at)
    assert at < change <= at + timedelta(hours=25, minutes=30)
    # a clock that is put forward may jump over the moment itself
    on_time = change.astimezone(UTC).astimezone(change.tzinfo).time() == change.time()
    if begins != ends and on_time:
        assert hours.is_open(change) is not hours.is_open(at)
        assert hours.is_open(change - timedelta(minutes=1)) is hours.is_open(at) or change - at < timedelta(minutes=1)
    assert hours.next_end(at).time() == ends and hours.next_end(at) > at


def test_over_midnight_the_small_hours_belong_to_the_evening_before() -> None:
    night = Hours(begins=time(22), ends=time(6, 30), zone="Europe/Lisbon")
    inside = [hour for hour in range(24) if night.is_open(datetime(2026, 7, 1, hour, 15, tzinfo=UTC))]
    # in July Lisbon is an hour ahead
    assert inside == [0, 1, 2, 3, 4, 5, 21, 22, 23]
    assert not night.is_open(datetime(2026, 7, 1, 5, 30, tzinfo=UTC))


@pytest.fixture
def clock(monkeypatch: pytest.MonkeyPatch) -> Callable[[int], None]:
    """Puts the clock to an hour (UTC) of a day."""

    def put(hour: int, day: int = 1) -> None:
        monkeypatch.setattr(timezone, "now", lambda: datetime(2026, 3, day, hour, 0, 1, tzinfo=UTC))

    return put


def queue(count: int) -> list[int]:
    facts: dict[str, Any] = {"title_name": "Kite day", "device_names": ["Phone"], "folder": "/tmp"}
    return [Job.objects.create(**facts, token=str(at), position=at).pk for at in range(count)]


@pytest.mark.django_db
def test_what_waits_begins_in_its_hours_only_and_what_is_made_stands_still_outside_them(
    api: Api, clock: Callable[..., None], monkeypatch: pytest.MonkeyPatch
) -> None:
    clock(20)
    first, _ = queue(2)
    hours = {"begins": "22:00", "ends": "06:00", "zone": "UTC"}
    assert api("put", "worklist/hours", {"hours": hours})[0] == 204
    said = api("get", "worklist")[1]["hours"]
    assert (said["open"], said["changes"]) == (False, "2026-03-01T22:00:00Z")
    assert not run_next() and (run_jobs_task, ()) not in _wanted()
    closed = worklist_mark()
    clock(22)
    assert worklist_mark() != closed and (run_jobs_task, ()) in _wanted()
    # one is begun, and stands still from the morning to the evening
    made = Job.objects.get(pk=first)
    Job.objects.filter(pk=first).update(state="running")

    def steered() -> list[bool]:
        """Whether it is to stop, and whether it is to stand still."""
        return [asked() for asked in _steered(made)]

    assert steered() == [False, False]
    clock(6, 2)
    assert steered() == [False, True]
    clock(22, 2)
    assert steered() == [False, False]


@pytest.mark.django_db
def test_hours_need_not_be_waited_for_and_the_next_night_they_count_again(api: Api, clock: Callable[..., None]) -> None:
    clock(12)
    api("put", "worklist/hours", {"hours": {"begins": "22:00", "ends": "06:00", "zone": "UTC"}})
    assert api("post", "worklist/hours/now", {})[0] == 204
    said = api("get", "worklist")[1]["hours"]
    assert (said["open"], said["changes"]) == (True, "2026-03-02T06:00:00Z")
    clock(5, 2)
    assert pace().is_open
    clock(7, 2)
    assert not pace().is_open
    api("post", "worklist/hours/now", {})
    api("put", "worklist/hours", {"hours": None})
    assert api("get", "worklist")[1]["hours"] is None and pace().is_open and pace().open_until is None


@pytest.mark.parametrize("zone", ["Nowhere/At_all", "../etc/passwd", ""])
@pytest.mark.django_db
def test_a_clock_that_is_not_known_is_refused_and_the_old_hours_stay(api: Api, zone: str) -> None:
    api("put", "worklist/hours", {"hours": {"begins": "22:00", "ends": "06:00", "zone": "UTC"}})
    status, refused = api("put", "worklist/hours", {"hours": {"begins": "01:00", "ends": "06:00", "zone": zone}})
    assert status >= 400 and "time zone" in refused["message"]
    assert api("get", "worklist")[1]["hours"]["begins"] == "22:00:00"
