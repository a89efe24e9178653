"""Jobs that are paused, held back, stopped and planned again: nothing is lost, and nothing is made twice."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from django.db import connections
from tests.instruments.waiting import until

from rheon.core.analysis import Survey, survey_title
from rheon.core.encoding import part_path
from rheon.core.media import Title as CoreTitle
from rheon.core.system import this_host
from rheon.server.outbox.models import Output
from rheon.server.shelf.actions import surveys
from rheon.server.shelf.models import Source, Title
from rheon.server.upkeep.hints import _wanted
from rheon.server.worklist.actions.recover import recover
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job, JobState
from rheon.server.worklist.queries import worklist_mark
from rheon.server.worklist.tasks import run_jobs_task

Api = Callable[..., Any]
Cell = tuple[int, int]
NOBODY = "1-0"
"""No process is this one: the first of all began later than the machine did."""


@pytest.fixture
def worker() -> Iterator[Callable[[], Future[None]]]:
    """A worker that carries out one job beside the test."""

    def work() -> None:
        try:
            run_next()
        finally:
            connections.close_all()

    with ThreadPoolExecutor(1) as pool:
        yield lambda: pool.submit(work)
        # what a test that failed left standing still would never end
        Job.objects.update(stop_requested=True)


@pytest.fixture
def extra(shelf: Callable[[str], Source], household: list[int]) -> Cell:
    title = shelf("MARRAM_NIGHTS").titles.get(number=4)
    title.survey_failed = True
    title.samples = {"coarse_quality": 27, "coarse_bits": 0.05, "fine_quality": 17, "fine_bits": 0.2}
    title.save()
    return title.pk, household[1]


def add(api: Api, *cells: Cell) -> list[int]:
    status, said = api("post", "worklist/jobs", {"cells": [{"title_id": t, "target_id": d} for t, d in cells]})
    assert status == 201, said
    ids: list[int] = said["job_ids"]
    return ids


def change(api: Api, verb: str, *ids: int) -> None:
    assert api("post", "worklist/changes", {"job_ids": list(ids), "verb": verb})[0] == 204


@pytest.mark.django_db(transaction=True)
def test_what_is_paused_stands_still_until_it_goes_on_and_is_made_once(
    extra: Cell, api: Api, worker: Callable[[], Future[None]]
) -> None:
    api("put", "bench", {"balance": "rich"})
    (job,) = add(api, extra)
    row = Job.objects.filter(pk=job)
    working = worker()
    until(lambda: row.get().fraction > 0)
    change(api, "pause", job)
    mark = worklist_mark()
    time.sleep(1.2)
    stood = row.get()
    time.sleep(1.5)
    assert (row.get().fraction, row.get().state) == (stood.fraction, "paused") and stood.fraction < 1
    listed = api("get", "worklist")[1]
    assert (listed["jobs"][0]["state"], listed["jobs"][0]["in_work"], listed["total"]["count"]) == ("paused", True, 0)
    assert recover() == 0 and part_path(Path(stood.folder), stood.token).exists()
    change(api, "go_on", job)
    assert worklist_mark() != mark
    working.result(timeout=120)
    done = row.get()
    assert done.state == "done" and done.ended and done.started
    made_in_s = api("get", "worklist")[1]["jobs"][0]["made_in_s"]
    assert 0 < made_in_s < (done.ended - done.started).total_seconds() - 2.0
    assert Output.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_looking_at_a_title_before_its_file_stands_still_and_ends_with_the_job(
    extra: Cell, api: Api, worker: Callable[[], Future[None]], monkeypatch: pytest.MonkeyPatch
) -> None:
    title = Title.objects.filter(pk=extra[0])
    title.update(survey=None, survey_failed=False)
    (job,) = add(api, extra)
    row = Job.objects.filter(pk=job)

    def paused_in_it(core: CoreTitle) -> Survey:
        change(api, "pause", job)
        return survey_title(core)

    monkeypatch.setattr(surveys, "survey_title", paused_in_it)
    working = worker()
    until(lambda: row.get().state == "paused")
    time.sleep(3)
    assert (row.get().stage, title.get().survey) == ("looking", None) and not working.done()
    change(api, "stop", job)
    working.result(timeout=30)
    # what was not looked at to its end is neither known nor given up
    assert (row.get().state, title.get().survey, title.get().survey_failed) == ("stopped", None, False)
    monkeypatch.setattr(surveys, "survey_title", survey_title)
    change(api, "retry", job)
    assert run_next() and row.get().state == "done" and title.get().survey


@pytest.mark.django_db(transaction=True)
def test_what_stands_still_can_be_stopped_and_leaves_nothing(
    extra: Cell, api: Api, worker: Callable[[], Future[None]], settings: Any
) -> None:
    (job,) = add(api, extra)
    change(api, "pause", job)
    assert not run_next()
    change(api, "go_on", job)
    api("post", "worklist/pace", {"held": False})
    working = worker()
    until(lambda: Job.objects.get().fraction > 0)
    # all at once: what is made stands still, and nothing else begins
    assert api("post", "worklist/pace", {"held": True, "pausing": True})[0] == 204
    assert Job.objects.get().state == "paused"
    change(api, "stop", job)
    working.result(timeout=30)
    assert Job.objects.get().state == "stopped"
    assert list(settings.RHEON_OUTPUT_FOLDER.iterdir()) == []


def test_a_worker_that_is_gone_leaves_what_was_paused_paused_and_nothing_else(extra: Cell, api: Api) -> None:
    (job,) = add(api, extra)
    part = part_path(Path(Job.objects.get().folder), Job.objects.get().token)
    part.write_bytes(b"half a file")
    lost = {"worker": NOBODY, "host": this_host(), "fraction": 0.5, "attempts": 3}
    Job.objects.update(state=JobState.PAUSED, **lost)
    assert api("get", "worklist")[1]["jobs"][0]["in_work"]
    assert recover() == 1 and not part.exists()
    listed = api("get", "worklist")[1]["jobs"][0]
    assert (listed["state"], listed["in_work"], listed["fraction"]) == ("paused", False, 0)
    assert recover() == 0 and not run_next()
    change(api, "go_on", job)
    assert run_next() and Job.objects.get().state == "done" and Output.objects.count() == 1


@pytest.mark.django_db
def test_what_is_gone_on_with_or_stopped_while_its_worker_is_gone_waits_or_ends(extra: Cell, api: Api) -> None:
    first, second = add(api, extra)[0], add(api, extra)[0]
    Job.objects.update(state=JobState.PAUSED, worker=NOBODY, host=this_host())
    change(api, "go_on", first)
    change(api, "stop", second)
    assert recover() == 2
    assert [Job.objects.get(pk=pk).state for pk in (first, second)] == ["waiting", "stopped"]


AFTER = {
    # by verb: what becomes of a job that waits, is made, is paused before or in its making, failed, is done
    "pause": ("paused", "paused", "paused", "paused", "failed", "done"),
    "go_on": ("waiting", "running", "waiting", "running", "failed", "done"),
    "stop": ("stopped", "running!", "stopped", "paused!", "failed", "done"),
    "retry": ("waiting", "running", "paused", "paused", "waiting", "done"),
    "accept_loss": ("waiting", "running", "paused", "paused", "waiting", "done"),
    "remove": ("gone", "running!", "gone", "paused!", "gone", "gone"),
}


@pytest.mark.parametrize(("verb", "after"), AFTER.items())
@pytest.mark.django_db
def test_each_verb_does_to_many_what_can_be_done_to_each(verb: str, after: tuple[str, ...], api: Api) -> None:
    facts: dict[str, Any] = {"title_name": "Kite day", "device_names": ["Phone"], "folder": "/tmp"}
    states = [("waiting", ""), ("running", NOBODY), ("paused", ""), ("paused", NOBODY), ("failed", ""), ("done", "")]
    jobs = [
        Job.objects.create(**facts, state=state, worker=worker, token=str(at), position=at)
        for at, (state, worker) in enumerate(states)
    ]
    change(api, verb, *(job.pk for job in jobs), 10**9)
    found = {job.pk: job.state + "!" * job.stop_requested for job in Job.objects.all()}
    assert tuple(found.get(job.pk, "gone") for job in jobs) == after
    assert len(set(Job.objects.values_list("token", flat=True))) == len(found)
    assert Job.objects.filter(accept_loss=True).exists() is (verb == "accept_loss")


def test_what_is_held_begins_only_when_it_is_let(extra: Cell, api: Api) -> None:
    add(api, extra)
    mark = worklist_mark()
    assert api("post", "worklist/pace", {"held": True})[0] == 204
    assert api("get", "worklist")[1]["held"] and worklist_mark() != mark
    assert not run_next() and (run_jobs_task, ()) not in _wanted()
    api("post", "worklist/pace", {"held": False})
    assert (run_jobs_task, ()) in _wanted()
    assert not api("get", "worklist")[1]["held"] and run_next()


def test_another_plan_takes_a_waiting_jobs_place_and_files_that_differ_now_are_two(
    extra: Cell, household: list[int], api: Api
) -> None:
    title, tablet = extra
    api("put", "bench", {"balance": "lean"})
    first, second, third = add(api, extra, (title, household[0]))[0], add(api, extra)[0], add(api, extra)[0]
    assert Job.objects.get(pk=first).device_names == ["Heron 8", "Wren 6"]
    api("patch", f"bench/plans/{title}/{tablet}", {"pins": {"picture.size": "240"}})
    change(api, "pause", first)
    status, made = api("post", f"worklist/jobs/{first}/plan", {})
    assert status == 200, made
    order = [(job["device_names"], job["state"]) for job in api("get", "worklist")[1]["jobs"]]
    assert order[:2] == [(["Heron 8"], "paused"), (["Wren 6"], "paused")] and len(order) == 4
    assert [job["id"] for job in api("get", "worklist")[1]["jobs"]] == [*made["job_ids"], second, third]
    assert "240" in Job.objects.get(pk=made["job_ids"][0]).summary
    # what failed is tried again with it, behind all others
    Job.objects.filter(pk=second).update(state=JobState.FAILED)
    ((again,),) = api("post", f"worklist/jobs/{second}/plan", {})[1].values()
    assert [job["id"] for job in api("get", "worklist")[1]["jobs"]][-2:] == [third, again]
    assert "240" in Job.objects.get(pk=again).summary


def test_what_is_being_made_or_has_nothing_to_be_planned_by_keeps_its_plan(extra: Cell, api: Api) -> None:
    (job,) = add(api, extra)
    Job.objects.update(state=JobState.RUNNING)
    status, refused = api("post", f"worklist/jobs/{job}/plan", {})
    assert status == 422 and "being made already" in refused["message"]
    Job.objects.update(state=JobState.WAITING, title=None)
    status, refused = api("post", f"worklist/jobs/{job}/plan", {})
    assert status == 422 and "no longer on the Shelf" in refused["message"]
    assert Job.objects.get().pk == job
