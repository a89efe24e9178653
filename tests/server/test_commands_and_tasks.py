from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.core.management import call_command
from django_tasks import default_task_backend

from rheon.server.household.models import Device
from rheon.server.live.documents import Counts
from rheon.server.live.snapshot import snapshot
from rheon.server.shelf.actions.samples import sample_title
from rheon.server.shelf.models import Source, Title

ROOT = Path(__file__).parents[2]


def queued() -> list[tuple[str, str]]:
    return [(result.task.name, result.task.queue_name) for result in default_task_backend.results]  # type: ignore[attr-defined]


def test_the_demo_s_household_is_loaded_once(db: None) -> None:
    file = ROOT / "src" / "rheon" / "demo" / "household.json"
    for _ in range(2):
        call_command("load_household", str(file))
    assert list(Device.objects.values_list("name", flat=True))[:2] == ["Ada's phone", "Back-seat tablet"]
    assert Device.objects.count() == 6


@pytest.mark.django_db(transaction=True)
def test_sources_are_added_once_and_read_on_the_quick_queue(media: Path) -> None:
    for _ in range(2):
        call_command("add_sources", str(media / "MARRAM_NIGHTS"), str(media / "LANTERN_STREET_S1.iso"))
    assert Source.objects.count() == 2
    assert queued() == [("read_source_task", "quick")] * 2


@pytest.mark.django_db(transaction=True)
def test_what_is_picked_is_sampled_and_what_is_converted_waits_on_its_own_queue(
    shelf: Callable[[str], Source], household: list[int], api: Callable[..., Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    api("post", "worklist/jobs", {"cells": [{"title_id": film.pk, "target_id": household[1]}]})
    assert queued() == [
        ("read_source_task", "quick"),
        ("sample_title_task", "quick"),
        ("survey_title_task", "quick"),
        ("run_jobs_task", "convert"),
    ]


def test_samples_are_taken_once_and_make_estimates_surer(
    shelf: Callable[[str], Source], household: list[int], api: Callable[..., Any]
) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=4)
    address = f"bench/plans/{title.pk}/{household[1]}"
    guess = api("get", address)[1]
    sample_title(title.pk)
    Title.objects.get(pk=title.pk)
    measured = api("get", address)[1]
    assert (guess["sampled"], measured["sampled"]) == (False, True)

    def spread(sheet: dict[str, Any]) -> float:
        estimate = sheet["estimate"]
        return float(estimate["size_high_bytes"] - estimate["size_low_bytes"]) / estimate["size_bytes"]

    assert spread(measured) < spread(guess) / 2


def test_titles_with_a_fault_are_neither_picked_nor_sampled(shelf: Callable[[str], Source]) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=4)
    title.outline = {**title.outline, "fault": "scrambled"}
    title.save()
    sample_title(title.pk)
    title.refresh_from_db()
    assert title.samples is None


def test_a_page_s_marks_change_only_with_their_place(
    shelf: Callable[[str], Source], household: list[int], api: Callable[..., Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    before = snapshot()
    api("patch", f"bench/plans/{film.pk}/{household[1]}", {"balance": "lean"})
    after = snapshot()
    assert before.marks.bench != after.marks.bench
    assert before.marks.shelf == after.marks.shelf
    assert after.counts == Counts(sources=1, picked=1, to_do=0, fraction=0.0, outputs=0)
