"""What was made is told once, when nothing is left to do, to a command of the settings."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.server.worklist.actions.record import record
from rheon.server.worklist.actions.tell import tell_what_was_made
from rheon.server.worklist.models import Job, JobState

Api = Callable[..., Any]


@pytest.fixture
def heard(settings: Any, tmp_path: Path, db: None) -> Callable[[], list[Any]]:
    """What was told, each time; the command is one that a person would write."""
    kept = tmp_path / "heard"
    settings.RHEON_TELL = f"sh -c 'cat >> {kept}; echo >> {kept}'"
    return lambda: [json.loads(line) for line in kept.read_text().splitlines()] if kept.exists() else []


def ends(name: str, state: JobState, **facts: Any) -> Job:
    job = Job.objects.create(title_name=name, device_names=["Küche"], folder="/x", state=state, **facts)
    record(job, f"{name}.mp4" if state == JobState.DONE else "")
    return job


def test_what_became_of_all_is_told_once_when_nothing_is_left_to_do(heard: Callable[[], list[Any]]) -> None:
    ends("Before there was a command", JobState.DONE)
    tell_what_was_made()
    ends("Über den Deich", JobState.DONE, written_bytes=7, made_s=2.5)
    ends("Kite day", JobState.FAILED, error_message="The disk is full.")
    waiting = Job.objects.create(title_name="Marram Nights", device_names=[], folder="/x")
    for state, worker in ((JobState.WAITING, ""), (JobState.RUNNING, "1-1"), (JobState.PAUSED, "1-1")):
        Job.objects.filter(pk=waiting.pk).update(state=state, worker=worker)
        tell_what_was_made()
    assert heard() == []
    waiting.delete()
    for _ in range(3):
        tell_what_was_made()
    assert heard() == [
        {
            "made": [
                {
                    "title": "Über den Deich", "devices": ["Küche"], "file": "Über den Deich.mp4", "size_bytes": 7,
                    "took_s": 2.5,
                }
            ],
            "not_made": [
                {"title": "Kite day", "devices": ["Küche"], "outcome": "failed", "message": "The disk is full."}
            ],
        }
    ]  # fmt: skip
    ends("Salt Road", JobState.STOPPED)
    tell_what_was_made()
    assert [len(news["not_made"]) for news in heard()] == [1, 1]


@pytest.mark.parametrize("command", ["no-such-program --now", "false"])
def test_that_it_could_not_be_told_is_said_on_the_page_until_somebody_has_read_it(
    command: str, settings: Any, db: None, api: Api
) -> None:
    settings.RHEON_TELL = command
    tell_what_was_made()
    ends("Kite day", JobState.DONE)
    tell_what_was_made()
    assert api("get", "worklist")[1]["end"]["failed"].startswith("What was made could not be told: ")
    assert api("put", "worklist/end", {"name": ""})[0] == 204
    tell_what_was_made()
    assert api("get", "worklist")[1]["end"]["failed"] == ""


def test_without_a_command_nothing_is_told_and_nothing_noted(settings: Any, db: None) -> None:
    settings.RHEON_TELL = ""
    ends("Kite day", JobState.DONE)
    tell_what_was_made()
    settings.RHEON_TELL = "false"
    tell_what_was_made()  # only from here on
