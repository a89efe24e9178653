"""The history of what was made: written when a job ends, found by words, bounded, and read by other programs as CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import Client

from rheon.server.shelf.models import Source
from rheon.server.worklist.actions import record as recording
from rheon.server.worklist.actions.record import record
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.history import COLUMNS, PAGE
from rheon.server.worklist.models import Job, JobState, Record

Api = Callable[..., Any]
EXPECTED = {
    "size_bytes": 1000, "size_low_bytes": 900, "size_high_bytes": 1100, "time_s": 10.0, "time_low_s": 8.0,
    "time_high_s": 12.0,
}  # fmt: skip
NOW = datetime(2026, 3, 1, 22, 15, tzinfo=UTC)


def ended(name: str, **facts: Any) -> Record:
    usual = {"device_names": ["Tablet"], "state": JobState.DONE, "made_s": 5.0, "written_bytes": 500, "started": NOW}
    wanted = {**usual, "expected": EXPECTED, "summary": "H.264", "folder": "/x", "ended": NOW, **facts}
    record(Job.objects.create(title_name=name, **wanted), "file.mp4" if wanted["state"] == JobState.DONE else "")
    return Record.objects.latest("id")


def names(said: Any) -> list[str]:
    return [row["title_name"] for row in said["records"]]


@pytest.mark.django_db(transaction=True)
def test_a_job_leaves_a_record_each_time_it_ends_which_stays_when_the_job_is_removed(
    shelf: Callable[[str], Source], household: list[int], api: Api
) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=4)
    cell = {"title_id": title.pk, "target_id": household[1]}
    _, added = api("post", "worklist/jobs", {"cells": [cell]})
    job = Job.objects.get(pk=added["job_ids"][0])
    plan = job.plan_document
    Job.objects.update(plan_document={"of": "an older Rheon"}, request_document=None)
    assert run_next()
    Job.objects.update(plan_document=plan)
    api("post", "worklist/changes", {"job_ids": [job.pk], "verb": "retry"})
    assert run_next()
    api("post", "worklist/changes", {"job_ids": [job.pk], "verb": "remove"})
    assert not Job.objects.exists()
    _, said = api("get", "worklist/history")
    made, failed = said["records"]
    assert (made["state"], failed["state"]) == ("done", "failed")
    assert failed["message"].startswith("This job is from an older Rheon.") and failed["file_name"] == ""
    assert made["source_name"] == title.source.name and made["file_name"].endswith(".mp4")
    assert 0 < made["size_bytes"] == said["total"]["size_bytes"] and made["made_s"] == said["total"]["made_s"] > 0
    assert (said["total"]["count"], said["total"]["made"]) == (2, 1)


def test_words_and_outcomes_find_records_whatever_their_case_or_script(db: None, api: Api) -> None:
    ended("Über den Deich", device_names=["Ada’s phone"])
    ended("Marram Nights", device_names=["Attic"])
    ended("Marram Nights", state=JobState.FAILED, error_message="The disk is full.", written_bytes=0, made_s=None)
    found = {
        "über": ["Über den Deich"],
        "ÜBER phone": ["Über den Deich"],
        "marram": ["Marram Nights", "Marram Nights"],
        "marram attic": ["Marram Nights"],
        "FULL": ["Marram Nights"],
        "file.mp4": ["Marram Nights", "Über den Deich"],
        "100%": [],
        "": ["Marram Nights", "Marram Nights", "Über den Deich"],
    }
    for words, expected in found.items():
        assert names(api("get", "worklist/history", {"q": words})[1]) == expected, words
    assert names(api("get", "worklist/history", {"outcome": "not made"})[1]) == ["Marram Nights"]
    _, said = api("get", "worklist/history", {"outcome": "made", "q": "marram"})
    compared = {"compared_bytes": 500, "expected_bytes": 1000, "compared_s": 5.0, "expected_s": 10.0}
    assert said["total"] == {"count": 1, "made": 1, "size_bytes": 500, "made_s": 5.0, **compared}
    assert api("get", "worklist/history", {"outcome": "half"})[0] == 400


def test_pages_follow_each_other_and_the_oldest_go_where_there_are_too_many(
    db: None, api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(recording, "MOST_RECORDS", PAGE + 5)
    for number in range(PAGE + 8):
        ended(f"Title {number}")
    _, first = api("get", "worklist/history")
    _, second = api("get", "worklist/history", {"after": first["records"][-1]["id"]})
    assert (len(first["records"]), len(second["records"]), first["total"]["count"]) == (PAGE, 5, PAGE + 5)
    assert (names(first)[0], names(second)[-1]) == (f"Title {PAGE + 7}", "Title 3")


def test_the_file_is_csv_that_is_read_back_equal_and_that_no_spreadsheet_carries_out(
    db: None, client: Client, api: Api
) -> None:
    ended('Salt, "Road"\nPart 2', device_names=["Küche", "Attic"], duration_s=61.25)
    ended("=2+3", state=JobState.FAILED, error_message="-1 is no size", started=None, made_s=None)
    ended("Kite day", ended=NOW + timedelta(hours=2))
    answer = client.get("/api/worklist/history.csv", {"q": "tablet", "outcome": "not made"})
    assert answer["Content-Disposition"].startswith('attachment; filename="Rheon history ')
    rows = list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"), newline="")))
    assert [(row["title"], row["message"], row["started"], row["took_s"]) for row in rows] == [
        ("'=2+3", "'-1 is no size", "", "")
    ]
    rows = list(csv.DictReader(io.StringIO(client.get("/api/worklist/history.csv").content.decode("utf-8-sig"))))
    assert tuple(rows[0]) == COLUMNS and len(rows) == 3
    assert rows[2] | {"title": "", "kind": ""} == {
        "ended": "2026-03-01T22:15:00+00:00", "started": "2026-03-01T22:15:00+00:00", "outcome": "done", "title": "",
        "source": "", "devices": "Küche, Attic", "kind": "", "what": "H.264", "file": "file.mp4", "length_s": "61.2",
        "size_bytes": "500", "expected_bytes": "1000", "took_s": "5.0", "expected_s": "10.0", "message": "",
    }  # fmt: skip
    assert rows[2]["title"] == 'Salt, "Road"\nPart 2'


@pytest.mark.django_db(transaction=True)
def test_what_ended_before_there_was_a_history_is_in_it(api: Api) -> None:
    executor = MigrationExecutor(connection)
    executor.migrate([("worklist", "0010_nights_work")])
    try:
        old = executor.loader.project_state([("worklist", "0010_nights_work")]).apps.get_model("worklist", "Job")
        usual = {"device_names": ["Attic"], "summary": "H.264", "folder": "/x", "expected": EXPECTED, "started": NOW}
        old.objects.create(title_name="Later", state="failed", error_message="No.", ended=NOW, **usual)
        old.objects.create(title_name="Earlier", state="done", written_bytes=7, ended=NOW - timedelta(days=1), **usual)
        old.objects.create(title_name="Waits", state="waiting", **usual)
        old.objects.create(title_name="Never begun", state="stopped", ended=NOW, **{**usual, "started": None})
    finally:
        call_command("migrate", verbosity=0)
    _, said = api("get", "worklist/history", {"q": "attic"})
    assert [(row["title_name"], row["size_bytes"], row["expected_s"]) for row in said["records"]] == [
        ("Later", 0, 10.0),
        ("Earlier", 7, 10.0),
    ]
