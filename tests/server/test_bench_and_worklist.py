from __future__ import annotations

import stat
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.test import AsyncClient

from rheon.server.outbox.models import Output
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job

Api = Callable[..., Any]
Shelf = Callable[[str], Source]


@pytest.fixture
def cell(shelf: Shelf, household: list[int]) -> tuple[int, int]:
    """A short extra on the sound-only device: quick to make."""
    return shelf("MARRAM_NIGHTS").titles.get(number=4).pk, household[3]


def add(api: Api, *cells: tuple[int, int]) -> list[int]:
    status, document = api("post", "worklist/jobs", {"cells": [{"title_id": t, "target_id": d} for t, d in cells]})
    assert status == 201, document
    ids: list[int] = document["job_ids"]
    return ids


def state(job_id: int) -> str:
    return Job.objects.get(pk=job_id).state


def test_the_table_crosses_picks_with_devices_and_shows_what_one_file_serves(
    shelf: Shelf, household: list[int], api: Api
) -> None:
    shelf("MARRAM_NIGHTS")
    shelf("camera/Kite day.mp4")
    table = api("get", "bench")[1]
    phone, tablet, _pocket, sound = household
    film, kite = (title["id"] for title in table["titles"])
    listed = api("get", f"bench/cells?titles={film},{kite}")[1]
    cells = {(c["title_id"], c["target_id"]): c for c in listed}
    assert len(cells) == 8
    assert cells[film, tablet]["same_as"] == phone
    assert cells[kite, phone]["verdict"] == "plays"
    assert cells[kite, phone]["estimate"] is None
    assert cells[film, sound]["reason"] == "only the sound is kept"


def test_a_sheet_explains_itself_and_follows_what_is_set_by_hand(shelf: Shelf, household: list[int], api: Api) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"bench/plans/{film.pk}/{household[1]}"
    sheet = api("get", address)[1]
    assert all(decision["reason"] for decision in sheet["decisions"])
    assert [step["balance"] for step in sheet["steps"]] == ["lean", "light", "even", "full", "rich"]
    changed = api("patch", address, {"balance": "lean", "pins": {"sound.track": "1", "file.name": 'no "quotes"'}})[1]
    said = {decision["key"]: decision for decision in changed["decisions"]}
    assert (said["sound.track"]["text"], said["sound.track"]["pinned"]) == ("Spanish, stereo", True)
    assert said["file.name"]["text"] == "no 'quotes'.mp4"
    assert changed["estimate"]["size_bytes"] < sheet["estimate"]["size_bytes"]
    again = api("patch", address, {"pins": {"sound.track": None, "file.name": None}})[1]
    assert again["pins"] == []


def test_a_pin_that_names_nothing_is_refused_and_what_was_stays(shelf: Shelf, household: list[int], api: Api) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"bench/plans/{film.pk}/{household[1]}"
    status, said = api("patch", address, {"pins": {"sound.track": "9"}})
    assert (status, said["code"]) == (422, "bad_pin")
    assert api("get", address)[1]["pins"] == []


def test_a_job_is_made_checked_and_delivered(cell: tuple[int, int], api: Api, settings: Any) -> None:
    (job,) = add(api, cell)
    assert state(job) == "waiting"
    run_next()
    worklist = api("get", "worklist")[1]
    assert (worklist["jobs"][0]["state"], worklist["total"]["count"]) == ("done", 0)
    output = api("get", f"outbox/{api('get', 'outbox')[1]['outputs'][0]['id']}")[1]
    assert output["file_name"] == "Marram Nights, extra 3.mp3"
    assert output["folder"] == "output"  # without the way to it
    assert api("get", f"outbox/jobs/{job}")[1] == output
    assert api("get", f"outbox/jobs/{job + 1}")[0] == 404
    assert (settings.RHEON_OUTPUT_FOLDER / output["file_name"]).stat().st_size == output["size_bytes"]
    assert output["checks"][0]["kept"] == len(output["checks"][0]["rules"]) > 5
    assert [path.name for path in settings.RHEON_OUTPUT_FOLDER.iterdir()] == [output["file_name"]]


def test_cells_that_one_file_serves_become_one_job_checked_for_each_device(
    shelf: Shelf, household: list[int], api: Api
) -> None:
    episode = shelf("LANTERN_STREET_S1.iso").titles.get(number=1)
    api("put", "bench", {"balance": "lean"})
    add(api, (episode.pk, household[0]), (episode.pk, household[1]))
    run_next()
    assert [check["device_name"] for check in Output.objects.get().checks] == ["Wren 6", "Heron 8"]


def test_jobs_run_in_their_order_and_a_waiting_one_can_be_stopped_and_started_again(
    cell: tuple[int, int], api: Api
) -> None:
    first, second = add(api, cell)[0], add(api, cell)[0]
    assert api("post", "worklist/changes", {"job_ids": [first], "verb": "stop"})[0] == 204
    run_next()
    assert (state(first), state(second)) == ("stopped", "done")
    api("post", "worklist/changes", {"job_ids": [first], "verb": "retry"})
    run_next()
    assert state(first) == "done"
    names = sorted(Path(path).name for path in Output.objects.values_list("path", flat=True))
    assert names == ["Marram Nights, extra 3 (Sound only).mp3", "Marram Nights, extra 3.mp3"]


def test_a_running_job_is_stopped_and_leaves_nothing(
    shelf: Shelf, household: list[int], api: Api, settings: Any
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    (job,) = add(api, (film.pk, household[1]))
    Job.objects.update(stop_requested=True)
    run_next()
    assert state(job) == "stopped"
    assert list(settings.RHEON_OUTPUT_FOLDER.iterdir()) == []


def test_a_failure_is_told_in_a_sentence_and_can_be_tried_again(cell: tuple[int, int], api: Api, settings: Any) -> None:
    (job,) = add(api, cell)
    document = Job.objects.get(pk=job).title_document
    for piece in document["data"]["cells"]:
        for extent in piece["extents"]:
            extent["path"] = extent["path"].replace("MARRAM", "MISLAID")
    Job.objects.update(title_document=document, request_document=None)
    run_next()
    failed = api("get", "worklist")[1]["jobs"][0]
    assert failed["state"] == "failed"
    assert failed["error_message"] == (
        "VTS_02_1.VOB is not there any more. Put it back where it was, or add it again from its new place."
    )
    assert list(settings.RHEON_OUTPUT_FOLDER.iterdir()) == []


def test_a_job_never_reads_outside_the_media_folders(cell: tuple[int, int], api: Api) -> None:
    (job,) = add(api, cell)
    document = Job.objects.get(pk=job).title_document
    for piece in document["data"]["cells"]:
        for extent in piece["extents"]:
            extent["path"] = "/etc/passwd"
    Job.objects.update(title_document=document, request_document=None)
    run_next()
    assert Job.objects.get(pk=job).error_code == "outside_folders"


def test_nothing_to_make_is_said_and_makes_no_job(shelf: Shelf, household: list[int], api: Api) -> None:
    kite = shelf("camera/Kite day.mp4").titles.get()
    status, said = api("post", "worklist/jobs", {"cells": [{"title_id": kite.pk, "target_id": household[0]}]})
    assert (status, said["code"], Job.objects.count()) == (422, "plan_refused", 0)


@pytest.mark.django_db(transaction=True)
async def test_outputs_are_given_whole_and_in_ranges_and_only_from_the_output_folder(
    settings: Any, async_client: AsyncClient
) -> None:
    def row(path: Path) -> Output:
        return Output(
            path=str(path),
            title_name="x",
            device_names=[],
            summary="",
            size_bytes=10,
            making_s=1,
            checking_s=1,
            expected={},
            checks=[],
        )

    inside, outside = settings.RHEON_OUTPUT_FOLDER / "ä 'b'.mp4", settings.RHEON_OUTPUT_FOLDER.parent / "secret.mp4"
    for path in (inside, outside):
        path.write_bytes(b"0123456789")
    (settings.RHEON_OUTPUT_FOLDER / "link.mp4").symlink_to(outside)
    rows = [row(inside), row(outside), row(settings.RHEON_OUTPUT_FOLDER / "link.mp4")]
    for entry in rows:
        await entry.asave()
    address = f"/api/outbox/{rows[0].pk}/media"
    seen = []
    for asked in ("", "bytes=2-4", "bytes=7-", "bytes=-3", "bytes=50-", "bytes=a-b"):
        response = await async_client.get(address, headers={"Range": asked} if asked else {})
        body = b"".join([chunk async for chunk in response]) if response.streaming else b""  # type: ignore[attr-defined]
        seen.append((response.status_code, body))
    whole = b"0123456789"
    assert seen == [(200, whole), (206, b"234"), (206, b"789"), (206, b"789"), (416, b""), (200, whole)]
    download = await async_client.get(f"{address}?download")
    assert download.headers["Content-Disposition"] == "attachment; filename*=UTF-8''%C3%A4%20%27b%27.mp4"
    assert [(await async_client.get(f"/api/outbox/{entry.pk}/media")).status_code for entry in rows[1:]] == [404, 404]


def test_a_job_s_plan_is_settled_after_looking_so_that_the_same_wishes_give_the_same_file(
    cell: tuple[int, int], api: Api
) -> None:
    Title.objects.filter(pk=cell[0]).update(survey=None, samples=None)
    (early,) = add(api, cell)
    run_next()
    (late,) = add(api, cell)
    run_next()
    first, second = Job.objects.get(pk=early), Job.objects.get(pk=late)
    assert (first.state, second.state) == ("done", "done")
    assert first.plan_document["settings"] == second.plan_document["settings"]
    assert first.title_document == second.title_document
    assert Title.objects.get(pk=cell[0]).survey is not None


@pytest.mark.parametrize("passes", [True, False])
def test_a_cut_copies_what_it_can_and_a_file_that_does_not_pass_is_converted_instead(
    passes: bool, shelf: Shelf, household: list[int], api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    kite, phone = shelf("camera/Kite day.mp4").titles.get().pk, household[0]
    sheet = api("patch", f"bench/plans/{kite}/{phone}", {"pins": {"range.keep": "0:09-0:22"}})[1]
    cut = next(decision for decision in sheet["decisions"] if decision["key"] == "range.cut")
    assert (cut["value"], [choice["value"] for choice in cut["choices"]]) == ("edges", ["edges", "exact", "copy"])
    if not passes:
        monkeypatch.setattr("rheon.core.encoding.edges.free_id", lambda headers: None)
    (job_id,) = add(api, (kite, phone))
    run_next()
    job = Job.objects.get(pk=job_id)
    assert job.state == "done", job.error_message
    made = job.core_plan()
    assert made.settings and made.settings.video
    assert bool(made.settings.middles) == passes and (made.settings.video.action.value == "copy") == passes
    if not passes:
        told = [decision.reason.code for decision in made.decisions if decision.key == "range.cut"]
        assert told == ["cut_edges_failed"] and made.estimate
        assert job.expected["time_s"] == made.estimate.time_s and "copied" not in job.summary


def test_a_loss_is_made_only_after_a_yes(cell: tuple[int, int], api: Api) -> None:
    (job,) = add(api, cell)
    Job.objects.filter(pk=job).update(state="failed", error_code="loss_not_accepted", error_message="It ends early.")
    assert api("get", "worklist")[1]["jobs"][0]["may_accept_loss"] is True
    api("post", "worklist/changes", {"job_ids": [job], "verb": "accept_loss"})
    row = Job.objects.get(pk=job)
    assert (row.state, row.accept_loss) == ("waiting", True)
    run_next()
    assert state(job) == "done"


def test_only_the_owner_reads_the_database(settings: Any) -> None:
    folder = Path(settings.STATE)
    assert stat.S_IMODE(folder.stat().st_mode) == 0o700
    assert stat.S_IMODE((folder / "rheon.sqlite3").stat().st_mode) == 0o600
