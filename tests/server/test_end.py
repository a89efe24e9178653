"""What is done when all is made: once, a minute after, never while anything is under way, unless somebody says no."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.utils import timezone

from rheon.server.shelf.models import Source
from rheon.server.worklist.actions.end import see_to_the_end
from rheon.server.worklist.models import Job, JobState
from rheon.server.worklist.queries import worklist_mark

Api = Callable[..., Any]


class Night:
    """A clock that is put forward, and what the chosen command has left behind: a line for each time."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch, settings: Any, folder: Path) -> None:
        self.now = datetime(2026, 3, 1, 2, 0, tzinfo=UTC)
        self.note = folder / "note"
        monkeypatch.setattr(timezone, "now", lambda: self.now)
        settings.RHEON_ENDS = [f"Shut down=sh -c 'echo off >> {self.note}'", "Sleep=no-such-program"]

    def passes(self, seconds: int) -> None:
        """Time passes, and is looked at as the sweep does."""
        for _ in range(seconds // 5):
            self.now += timedelta(seconds=5)
            see_to_the_end()

    @property
    def done(self) -> int:
        return len(self.note.read_text().split()) if self.note.exists() else 0


@pytest.fixture
def night(monkeypatch: pytest.MonkeyPatch, settings: Any, tmp_path: Path, db: None) -> Night:
    return Night(monkeypatch, settings, tmp_path)


@pytest.fixture
def job(night: Night) -> Job:
    return Job.objects.create(title_name="Kite day", device_names=["Phone"], folder="/tmp", token="1")


def chosen(api: Api) -> tuple[str, str | None]:
    end = api("get", "worklist")[1]["end"]
    return end["chosen"], end["at"]


def test_it_is_done_once_a_minute_after_the_last_file(night: Night, job: Job, api: Api) -> None:
    assert api("put", "worklist/end", {"name": "Shut down"})[0] == 204
    for state, worker in ((JobState.WAITING, ""), (JobState.RUNNING, "1-1"), (JobState.PAUSED, "1-1")):
        Job.objects.update(state=state, worker=worker)
        night.passes(200)
        assert (night.done, chosen(api)) == (0, ("Shut down", None))
    Job.objects.update(state=JobState.DONE)
    mark = worklist_mark()
    night.passes(5)
    assert chosen(api) == ("Shut down", (night.now + timedelta(seconds=60)).strftime("%Y-%m-%dT%H:%M:%SZ"))
    assert worklist_mark() != mark
    night.passes(55)
    assert night.done == 0
    night.passes(10)
    assert (night.done, chosen(api)) == (1, ("", None))
    night.passes(600)
    assert night.done == 1


def test_it_can_be_stopped_in_its_minute_and_what_comes_meanwhile_puts_it_off(night: Night, job: Job, api: Api) -> None:
    api("put", "worklist/end", {"name": "Shut down"})
    Job.objects.update(state=JobState.DONE)
    night.passes(50)
    source = Source.objects.create(path="/tmp/disc", name="Disc", state="reading")
    night.passes(100)
    assert (night.done, chosen(api)) == (0, ("Shut down", None))
    source.delete()
    night.passes(50)
    assert night.done == 0 and chosen(api)[1] is not None
    api("put", "worklist/end", {"name": ""})
    night.passes(600)
    assert (night.done, chosen(api)) == (0, ("", None))


def test_only_what_the_settings_name_is_done_and_only_after_something(night: Night, job: Job, api: Api) -> None:
    assert api("get", "worklist")[1]["end"]["choices"] == ["Shut down", "Sleep"]
    for name in ("rm -rf /", "shut down", "Shut down=true"):
        assert api("put", "worklist/end", {"name": name})[0] == 400
    Job.objects.update(state=JobState.DONE)
    status, refused = api("put", "worklist/end", {"name": "Shut down"})
    assert status == 422 and "Nothing is to be made" in refused["message"]
    night.passes(600)
    assert night.done == 0


def test_what_can_t_be_done_is_told_and_is_not_tried_again(night: Night, job: Job, api: Api) -> None:
    api("put", "worklist/end", {"name": "Sleep"})
    Job.objects.update(state=JobState.DONE)
    night.passes(120)
    end = api("get", "worklist")[1]["end"]
    assert (end["chosen"], end["at"]) == ("", None)
    assert end["failed"] == "Sleep: The program no-such-program is not on this machine."
