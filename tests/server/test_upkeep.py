"""Whatever step a process is killed at: nothing is lost, nothing is doubled, nothing is left, and it goes on by itself.

A kill is an exception that nothing catches, after which the row belongs to a process that is gone.
"""

from __future__ import annotations

import importlib
import sqlite3
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from django.db import connections
from django.utils import timezone
from django_tasks_db.management.commands.db_worker import Worker
from django_tasks_db.models import DBTaskResult
from tests.thorough import thorough

from rheon.core.delivery import disc_copy, place
from rheon.core.encoding import part_path
from rheon.core.errors import SourceError
from rheon.core.system import own_mark, renaming, this_host
from rheon.server.bench.models import Target
from rheon.server.claims import Claims
from rheon.server.outbox.actions import outputs
from rheon.server.outbox.models import Output
from rheon.server.shelf.actions import reading, samples, surveys
from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.models import Source, Title
from rheon.server.shelf.tasks import read_source_task
from rheon.server.upkeep.hints import forget_old, renew
from rheon.server.upkeep.management.commands import work as commands
from rheon.server.upkeep.sweep import sweep
from rheon.server.worklist.actions import run
from rheon.server.worklist.actions.add import add_copy, add_jobs
from rheon.server.worklist.kinds import making
from rheon.server.worklist.models import Job

pytestmark = pytest.mark.django_db(transaction=True)
GONE = "999999999:1"
convert_module = importlib.import_module("rheon.core.delivery.convert")  # the package shows the function


class Killed(BaseException):
    """No ``finally`` of ours runs when a process is killed; those that do here leave no more than that."""


@pytest.fixture(autouse=True)
def real_queue(settings: Any, tmp_path: Path) -> None:
    settings.TASKS = {
        "default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["quick", "convert"]},
    }
    settings.RHEON_SCRATCH = tmp_path / "scratch"


@pytest.fixture
def cell(shelf: Callable[[str], Source], household: list[int]) -> tuple[Title, Target]:
    source = shelf("MARRAM_NIGHTS")
    # nothing but the job is to be done: looking at the whole disc takes long
    source.titles.update(samples_failed=True, survey_failed=True)
    title = source.titles.get(number=4)
    return title, Target.objects.get(device=household[3])


def after_a_kill() -> None:
    """The next start: rows of the killed process are a dead one's."""
    Job.objects.filter(state="running").update(worker=GONE)
    Source.objects.filter(state="reading").update(worker=GONE)
    sweep()


def work() -> None:
    """What the workers would do with the hints that are given."""
    for row in DBTaskResult.objects.filter(status="READY"):
        row.claim("me")
        row.task.call(*row.args_kwargs["args"])
        row.set_successful(None)


def killed_in(monkeypatch: pytest.MonkeyPatch, module: Any, name: str, *, after: bool) -> None:
    real = getattr(module, name)

    def dying(*args: Any, **kwargs: Any) -> Any:
        if after:
            real(*args, **kwargs)
        raise Killed

    with monkeypatch.context() as patch:
        # the leavings of a killed process stay where they are
        patch.setattr(convert_module, "remove_part", lambda part: None)
        patch.setattr(module, name, dying)
        with pytest.raises(Killed):
            run.run_next()


def test_a_worker_looks_at_its_queue_when_somebody_has_written_and_now_and_then_anyway(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    asleep, looked, now_s = 0, list[int](), 0.0

    def look(worker: Worker) -> None:
        looked.append(asleep)
        worker.running = len(looked) < 3

    def sleep(seconds: float) -> None:
        nonlocal asleep, now_s
        asleep += 1
        if asleep == 4:
            with sqlite3.connect(connections["default"].settings_dict["NAME"]) as other:
                other.execute("insert into django_session values ('a', 'b', '2030-01-01')")
        elif asleep == 9:
            now_s += commands.ANYWAY_S + 1

    monkeypatch.setattr(Worker, "run", look)
    monkeypatch.setattr(Worker, "configure_signals", lambda worker: None)
    monkeypatch.setattr(commands, "time", SimpleNamespace(sleep=sleep, monotonic=lambda: now_s))
    commands.work_on("quick")
    assert looked == [0, 4, 9]


@pytest.mark.parametrize("after", [thorough(False), True])
@pytest.mark.parametrize(
    ("module", "name"),
    [
        thorough(making, "settle"),
        (convert_module, "make_file"),
        thorough(convert_module, "check_file"),
        (place, "rename_new"),
        thorough(renaming.os, "link"),  # type: ignore[attr-defined]
        (run, "deliver"),
        thorough(outputs.Output.objects, "create"),  # type: ignore[attr-defined]
    ],
)
def test_a_worker_killed_at_any_step_loses_and_doubles_nothing(
    monkeypatch: pytest.MonkeyPatch, cell: tuple[Title, Target], settings: Any, module: Any, name: str, after: bool
) -> None:
    add_jobs([cell])
    killed_in(monkeypatch, module, name, after=after)
    after_a_kill()
    work()
    job, output = Job.objects.get(), Output.objects.get()
    assert (job.state, output.job_id, job.delivery_document) == ("done", job.pk, None)
    assert [str(path) for path in settings.RHEON_OUTPUT_FOLDER.iterdir()] == [output.path]
    assert Path(output.path).stat().st_size == output.size_bytes


@pytest.mark.parametrize("step", ["rename", "_list_named"])
def test_a_copy_of_a_disc_is_taken_up_with_its_list(
    monkeypatch: pytest.MonkeyPatch, shelf: Callable[[str], Source], settings: Any, step: str
) -> None:
    add_copy(shelf("MARRAM_NIGHTS"))

    def dying(*args: Any) -> None:
        raise Killed

    with monkeypatch.context() as patch:
        patch.setattr(disc_copy, "remove_part", lambda part: None)
        patch.setattr(Path if step == "rename" else disc_copy, step, dying)
        with pytest.raises(Killed):
            run.run_next()
    after_a_kill()
    output = Output.objects.get()
    found = sorted(path.name for path in settings.RHEON_OUTPUT_FOLDER.iterdir())
    assert found == [Path(output.path).name, f"{Path(output.path).name}.sha256"]
    listed = (settings.RHEON_OUTPUT_FOLDER / found[1]).read_text().splitlines()
    assert all(line[66:].startswith(f"{found[0]}/VIDEO_TS/") for line in listed) and len(listed) > 3


def test_hints_that_were_never_given_or_are_taken_by_the_dead_are_given_again(cell: tuple[Title, Target]) -> None:
    title, _ = cell
    Title.objects.filter(pk=title.pk).update(samples=None, survey=None, samples_failed=False)
    title.source.titles.exclude(pk=title.pk).update(samples_failed=True, survey_failed=True)
    title.role, title.survey_failed, title.samples_failed = "feature", False, False
    title.save()
    title.source.titles.get(pk=title.pk)
    from rheon.server.bench.models import Pick

    Pick.objects.get_or_create(title=title)
    add_jobs([cell])
    DBTaskResult.objects.all().delete()
    assert renew() == 3
    assert renew() == 0
    DBTaskResult.objects.update(status="RUNNING", worker_ids=[GONE])
    renew()
    assert {row.status for row in DBTaskResult.objects.all()} == {"READY"}
    elsewhere = own_mark()[:-9] + "00000000x"
    DBTaskResult.objects.update(status="RUNNING", worker_ids=[elsewhere], started_at=timezone.now())
    assert (renew(), forget_old()) == (3, 0), "what another machine has taken is left to it and is no hint here"
    DBTaskResult.objects.filter(status="RUNNING").update(started_at=timezone.now() - timedelta(days=3))
    assert forget_old() == 3
    work()
    title.refresh_from_db()
    assert Job.objects.get().state == "done" and title.samples and title.survey
    assert renew() == 0


@pytest.mark.parametrize(
    ("module", "name", "after"),
    [(reading, "read_source", False), (reading, "read_source", True), (reading, "store", False)],
)
def test_a_reading_that_was_killed_is_done_again(
    monkeypatch: pytest.MonkeyPatch, media: Path, module: Any, name: str, after: bool
) -> None:
    source = add_source(str(media / "MARRAM_NIGHTS"))
    DBTaskResult.objects.update(status="RUNNING", worker_ids=[GONE])
    real = getattr(module, name)

    def dying(*args: Any, **kwargs: Any) -> Any:
        if after:
            real(*args, **kwargs)
        raise Killed

    with monkeypatch.context() as patch:
        patch.setattr(module, name, dying)
        with pytest.raises(Killed):
            reading.read_now(source.pk)
    after_a_kill()
    work()
    source.refresh_from_db()
    assert (source.state, source.titles.count() > 3) == ("ready", True)


def test_what_ends_every_worker_is_not_tried_for_ever(cell: tuple[Title, Target], media: Path) -> None:
    add_jobs([cell])
    Job.objects.update(state="running", worker=GONE, attempts=3)
    source = add_source(str(media / "camera"))
    DBTaskResult.objects.all().delete()
    Source.objects.filter(pk=source.pk).update(state="reading", worker=GONE)
    read_source_task.enqueue(source.pk)
    DBTaskResult.objects.update(status="RUNNING", worker_ids=[GONE] * 3)
    after_a_kill()
    source.refresh_from_db()
    assert (Job.objects.get().state, Job.objects.get().error_code) == ("interrupted", "interrupted")
    assert (source.state, "each time" in source.error_message) == ("failed", True)
    assert not DBTaskResult.objects.filter(status__in=("READY", "RUNNING"), task_path__contains="read").exists()


def test_one_hint_is_enough_for_all_jobs_and_a_lost_one_delays_none(cell: tuple[Title, Target]) -> None:
    add_jobs([cell])
    DBTaskResult.objects.filter(task_path__contains="run_jobs").delete()
    add_jobs([cell])
    work()
    assert list(Job.objects.values_list("state", flat=True)) == ["done", "done"]


def test_a_claim_that_could_not_be_ended_is_taken_up_by_the_same_worker(cell: tuple[Title, Target]) -> None:
    """The disk of the database was full just then: the row says running, and nobody is at it."""
    add_jobs([cell])
    Job.objects.update(state="running", **Claims.mine())
    sweep()
    work()
    assert Job.objects.get().state == "done"


def test_a_job_on_another_machine_is_left_to_it_while_it_beats_and_taken_over_when_it_is_silent(
    cell: tuple[Title, Target], settings: Any
) -> None:
    add_jobs([cell])
    soon, past = (timezone.now() + timedelta(seconds=seconds) for seconds in (60, -1))
    Job.objects.update(state="running", host="attic/other/boot", worker="1:1", lease_until=soon)
    first = Job.objects.get().token
    sweep()
    assert (Job.objects.get().state, Job.objects.get().token) == ("running", first)
    part = part_path(settings.RHEON_OUTPUT_FOLDER, first)
    part.write_bytes(b"what the first try has made")
    Job.objects.update(lease_until=past)
    sweep()
    assert (Job.objects.get().state, part.exists()) == ("waiting", False)
    work()
    assert Job.objects.get().state == "done"


def test_a_machine_that_was_started_again_holds_nothing_from_before(cell: tuple[Title, Target]) -> None:
    add_jobs([cell])
    before = this_host().rpartition("/")[0] + "/the start before"
    Job.objects.update(state="running", host=before, worker="1:1", lease_until=timezone.now() + timedelta(seconds=60))
    sweep()
    assert Job.objects.get().state == "waiting"


def test_a_try_that_was_taken_over_changes_nothing_any_more(
    cell: tuple[Title, Target], settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    add_jobs([cell])

    def taken_over(*_: object) -> None:
        Job.objects.update(token="theirs", host="attic/other/boot", worker="1:1")

    monkeypatch.setattr(convert_module, "_check_room", taken_over)
    run.run_next()
    assert (Job.objects.get().state, Job.objects.get().token) == ("running", "theirs")
    assert not Output.objects.exists()
    assert list(settings.RHEON_OUTPUT_FOLDER.iterdir()) == []


def test_a_reading_that_was_taken_over_changes_nothing_any_more(
    cell: tuple[Title, Target], monkeypatch: pytest.MonkeyPatch
) -> None:
    source = cell[0].source
    Source.objects.update(state="waiting")

    def taken_over(*_: object) -> None:
        Source.objects.update(host="attic/other/boot", worker="1:1")
        raise SourceError("It can't be read any more.")

    monkeypatch.setattr(reading, "read_source", taken_over)
    reading.read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.worker, source.error_message) == ("reading", "1:1", "")


def test_another_rheon_that_makes_into_the_same_folder_leaves_alone_what_is_being_made(
    cell: tuple[Title, Target], settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    add_jobs([cell])
    parts: list[Path] = []

    def swept_by_another(*_: object) -> None:
        claimed = Job.objects.get().token
        parts.append(part_path(settings.RHEON_OUTPUT_FOLDER, claimed))
        parts[0].write_bytes(b"half a file")
        # its list knows this folder, and nothing of this job
        Job.objects.update(token="theirs", state="done")
        sweep()
        Job.objects.update(token=claimed, state="running")
        assert parts[0].exists()

    monkeypatch.setattr(convert_module, "_check_room", swept_by_another)
    assert run.run_next() and parts
    assert Job.objects.get().state == "done"


def test_leavings_of_nobody_go_and_those_of_the_living_stay(settings: Any, cell: tuple[Title, Target]) -> None:
    add_jobs([cell])
    Job.objects.update(state="running", **Claims.mine())
    folder = settings.RHEON_OUTPUT_FOLDER
    with run.in_hand.holding(lambda: Job.objects.get().pk):
        mine = part_path(folder, Job.objects.get().token)
        pid, rest = own_mark().split("s", 1)
        unhosted = "p999999999s1x"  # as a version that knew one machine only left it
        marks = (own_mark(), f"p999999999s{rest}", "", f"{pid}s{rest[:-9]}00000000x", unhosted)
        shell, dead, unknown, elsewhere, old = (part_path(folder, f"{mark}abcdef") for mark in marks)
        for path in (mine, shell, unknown, elsewhere, old):
            path.write_bytes(b"x")
        dead.mkdir()
        (dead / "inside").write_bytes(b"x")
        scratch = settings.RHEON_SCRATCH
        (scratch / f"rheon-p999999999s{rest}-abc").mkdir(parents=True)
        sweep()
    assert set(folder.iterdir()) == {mine, shell, elsewhere}
    assert list(scratch.iterdir()) == []


@pytest.fixture(autouse=True)
def closed() -> Any:
    yield
    connections.close_all()


def test_a_title_that_cannot_be_sampled_is_not_asked_for_again(cell: tuple[Title, Target], settings: Any) -> None:
    title = cell[0]
    Title.objects.filter(pk=title.pk).update(
        samples=None, samples_failed=False, document={**title.document, "video": None}
    )
    samples.sample_title(title.pk)
    title.refresh_from_db()
    assert (title.samples, title.samples_failed) == (None, True)
    assert title.pk not in {row.pk for row in surveys.unlooked().filter(survey_failed=True)}
