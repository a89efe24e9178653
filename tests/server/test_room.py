"""Space for what waits: what fits is made, what doesn't waits and says for how much, and a full disk ends nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

from rheon.core.errors import EngineError, EngineKilled, EngineTimedOut, TargetFull
from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist import room
from rheon.server.worklist.actions import run
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job
from rheon.server.worklist.queries import worklist_mark
from rheon.server.worklist.tasks import run_jobs_task

Api = Callable[..., Any]
MB = 10**6


@pytest.fixture
def disk(monkeypatch: pytest.MonkeyPatch) -> Callable[[int], None]:
    """A disk with so many megabytes free, beside what Rheon leaves free."""

    def put(free_mb: int) -> None:
        monkeypatch.setattr(room, "free_bytes", lambda folder: free_mb * MB + room.SPARE_BYTES)

    return put


@pytest.fixture
def begun(monkeypatch: pytest.MonkeyPatch) -> Iterator[list[int]]:
    """The jobs that are begun; each finds the disk full when it has written nine megabytes."""
    found: list[int] = []

    class Full:
        def run(self, job: Job, *more: Any) -> None:
            found.append(job.pk)
            job.own_row().update(written_bytes=9 * MB, fraction=0.5)
            raise TargetFull("The disk that holds {folder} became full.", folder="output")

    monkeypatch.setattr(run, "KINDS", {"convert": Full()})
    yield found


def queue(tmp_path: Path, *sizes_mb: int) -> list[int]:
    expected = {"time_s": 1.0, "time_low_s": 1.0, "time_high_s": 1.0}
    return [
        Job.objects.create(
            title_name="Kite day",
            device_names=["Phone"],
            folder=str(tmp_path),
            token=str(at),
            position=at,
            expected={
                **expected, "size_bytes": size * MB, "size_low_bytes": size * MB, "size_high_bytes": 2 * size * MB,
            },
        ).pk
        for at, size in enumerate(sizes_mb)
    ]  # fmt: skip


@pytest.mark.django_db
def test_what_fits_goes_first_and_what_does_not_says_how_much_it_waits_for(
    tmp_path: Path, api: Api, disk: Callable[[int], None], begun: list[int]
) -> None:
    large, small = queue(tmp_path, 40, 5)
    disk(30)
    listed = api("get", "worklist")[1]
    assert [job["short_bytes"] for job in listed["jobs"]] == [10 * MB, 0]
    assert listed["shortages"] == [
        {"folder": tmp_path.name, "needed_bytes": 45 * MB, "free_bytes": 30 * MB + room.SPARE_BYTES}
    ]
    assert run_next() and begun == [small]
    Job.objects.filter(pk=small).delete()
    assert not run_next() and (run_jobs_task, ()) not in _wanted()
    disk(40)
    assert (run_jobs_task, ()) in _wanted() and api("get", "worklist")[1]["shortages"] == []
    assert run_next() and begun == [small, large]


@pytest.mark.django_db
def test_a_page_hears_of_space_that_was_made_while_something_waits(tmp_path: Path, disk: Callable[[int], None]) -> None:
    queue(tmp_path, 400)
    disk(30)
    short = worklist_mark()
    disk(31)
    assert worklist_mark() == short  # what is written all the time is no news
    disk(500)
    assert worklist_mark() != short
    Job.objects.update(state="done")
    nothing_waits = worklist_mark()
    disk(30)
    assert worklist_mark() == nothing_waits


@pytest.mark.django_db
def test_a_disk_that_fills_up_while_a_file_is_made_ends_nothing_and_is_not_tried_again_in_vain(
    tmp_path: Path, api: Api, disk: Callable[[int], None], begun: list[int]
) -> None:
    (job,) = queue(tmp_path, 5)
    disk(10)
    assert run_next()
    row = Job.objects.get()
    assert (row.state, row.written_bytes, row.fraction, row.error_message) == ("waiting", 0, 0, "")
    # it came to nine megabytes and was not whole: more than that has to be free
    assert api("get", "worklist")[1]["jobs"][0]["short_bytes"] == round(1.25 * MB)
    assert not run_next() and begun == [job]
    disk(12)
    assert run_next() and run_next() and not run_next()
    # three times full, with more free each time: it is no matter of space
    assert (Job.objects.get().state, begun) == ("failed", [job] * 3)
    assert "became full" in api("get", "worklist")[1]["jobs"][0]["error_message"]
    api("post", "worklist/changes", {"job_ids": [job], "verb": "retry"})
    disk(6)
    assert api("get", "worklist")[1]["jobs"][0]["short_bytes"] == 0


def test_what_is_free_is_told_of_folders_that_are_not_there_yet(tmp_path: Path) -> None:
    assert room.free_bytes(tmp_path / "a" / "b") == pytest.approx(room.free_bytes(tmp_path), rel=0.05)


@pytest.mark.django_db
@pytest.mark.parametrize(("error", "word"), [(EngineKilled, "short of memory"), (EngineTimedOut, "machine very busy")])
def test_what_the_system_killed_or_was_too_busy_for_is_made_again_but_not_for_ever(
    error: type[EngineError],
    word: str,
    tmp_path: Path,
    disk: Callable[[int], None],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    class Ended:
        def run(self, job: Job, *more: Any) -> None:
            raise error("{program} was ended from outside.", program="ffmpeg")

    monkeypatch.setattr(run, "KINDS", {"convert": Ended()})
    disk(500)
    (pk,) = queue(tmp_path, 1)
    states = [run_next() and Job.objects.get(pk=pk).state for _ in range(run.MOST_ATTEMPTS)]
    assert states == ["waiting", "waiting", "failed"]
    assert word in Job.objects.get(pk=pk).error_message
    assert not run_next()
