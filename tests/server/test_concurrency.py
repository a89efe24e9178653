"""Several workers and pages at the same time."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from django.db import connections

from rheon.server.outbox.models import Output
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.actions.add import add_jobs
from rheon.server.worklist.actions.change import retry, stop
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job

pytestmark = pytest.mark.django_db(transaction=True)


def at_once(*works: Callable[[], object]) -> None:
    def run(work: Callable[[], object]) -> None:
        try:
            work()
        finally:
            connections.close_all()

    with ThreadPoolExecutor(len(works)) as pool:
        for done in [pool.submit(run, work) for work in works]:
            done.result()


@pytest.fixture
def cells(shelf: Callable[[str], Source], household: list[int]) -> list[tuple[Title, Any]]:
    from rheon.server.bench.models import Target

    title = shelf("MARRAM_NIGHTS").titles.get(number=4)
    return [(title, Target.objects.get(device=household[3]))]


def test_two_workers_never_carry_out_the_same_job(cells: list[tuple[Title, Any]]) -> None:
    add_jobs(cells)
    at_once(run_next, run_next)
    assert (Job.objects.get().state, Output.objects.count()) == ("done", 1)


def test_two_workers_share_two_jobs_for_the_same_output(cells: list[tuple[Title, Any]]) -> None:
    add_jobs(cells)
    add_jobs(cells)
    at_once(run_next, run_next)
    assert sorted(Job.objects.values_list("state", flat=True)) == ["done", "done"]
    assert len({output.path for output in Output.objects.all()}) == 2


def test_a_source_is_read_once_by_two_workers_that_want_it(media: Any) -> None:
    source = add_source(str(media / "MARRAM_NIGHTS"))
    at_once(lambda: read_now(source.pk), lambda: read_now(source.pk))
    source.refresh_from_db()
    assert (source.state, source.titles.count()) == ("ready", 6)


def test_adding_the_same_source_twice_gives_one(media: Any) -> None:
    add_source(str(media / "MARRAM_NIGHTS"))
    add_source(str(media / "camera" / ".." / "MARRAM_NIGHTS"))
    assert Source.objects.count() == 1


def test_a_permit_without_a_job_does_nothing(cells: list[tuple[Title, Any]]) -> None:
    (job,) = add_jobs(cells)
    stop([job.pk])
    run_next()
    assert Job.objects.get().state == "stopped"
    retry([job.pk])
    retry([job.pk])
    run_next()
    run_next()
    assert (Job.objects.get().state, Output.objects.count()) == ("done", 1)


def test_a_finished_job_is_not_made_again_and_its_removal_keeps_the_output(
    cells: list[tuple[Title, Any]], api: Any
) -> None:
    (job,) = add_jobs(cells)
    run_next()
    retry([job.pk])
    assert Job.objects.get().state == "done"
    assert api("post", "worklist/changes", {"job_ids": [job.pk], "verb": "remove"})[0] == 204
    output = Output.objects.get()
    assert (output.job, output.title_name) == (None, "Marram Nights, extra 3")
    assert api("get", "outbox")[1]["outputs"][0]["present"] is True


def test_a_title_that_is_gone_leaves_its_jobs_and_outputs_readable(cells: list[tuple[Title, Any]], api: Any) -> None:
    add_jobs(cells)
    run_next()
    Source.objects.all().delete()
    assert api("get", "worklist")[1]["jobs"][0]["title_id"] is None
    assert api("get", "outbox")[1]["outputs"][0]["title_name"] == "Marram Nights, extra 3"
