"""What becomes known of a device stays with it: answers, test files, reports from the Outbox, newer catalogues."""

from __future__ import annotations

import io
import json
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from django.core.management import call_command
from django.test import Client
from tests.server.conftest import own

from rheon.core.devices import Ground, Sure, catalogue
from rheon.core.engine import probe
from rheon.server.household.actions import learning, renewing
from rheon.server.household.actions.devices import add_device
from rheon.server.household.models import Device
from rheon.server.outbox.models import Output

Api = Callable[..., Any]


def sure(document: Any, key: str) -> str:
    return str(next(one["sure"] for one in document["abilities"] if one["key"] == key))


def test_answers_settle_doubts_one_after_the_other_and_can_be_started_over(api: Api, db: None) -> None:
    tv = api("post", "household/devices", {"profile_id": "tv-2013"})[1]
    assert [question["id"] for question in tv["questions"]] == ["large_sticks", "dts_logo", "mkv_played"]
    address = f"household/devices/{tv['id']}"
    after = api("post", f"{address}/answers", {"question": "large_sticks", "yes": True})[1]
    assert "no file over" not in next(one["text"] for one in after["abilities"] if one["topic"] == "Limits")
    after = api("post", f"{address}/answers", {"question": "dts_logo", "yes": False})[1]
    assert [question["id"] for question in after["questions"]] == ["mkv_played"]
    assert api("post", f"{address}/answers", {"question": "weather", "yes": True})[0] == 400
    fresh = api("post", f"{address}/kind")[1]
    assert (len(fresh["questions"]), fresh["is_changed"], fresh["can_take_back"]) == (3, False, True)
    assert len(api("delete", f"{address}/kind")[1]["questions"]) == 1


@pytest.fixture
def clips(settings: Any, tmp_path: Path) -> Iterator[Path]:
    settings.STATE = tmp_path / "state"
    settings.STATE.mkdir()
    yield settings.STATE / "clips"


def test_a_test_file_holds_what_is_doubtful_and_its_word_is_taken(
    api: Api, client: Client, db: None, clips: Path, tmp_path: Path
) -> None:
    phone = api("post", "household/devices", {"profile_id": "phone-2015"})[1]
    assert next(one for one in phone["abilities"] if one["key"] == "video.hevc")["test_file"]
    address = f"/api/household/devices/{phone['id']}"
    got = client.get(f"{address}/trials?line=video.hevc")
    assert got.headers["Content-Disposition"] == 'attachment; filename="Test of HEVC up to 1920 1080.mp4"'
    file = tmp_path / "test.mp4"
    file.write_bytes(b"".join(got.streaming_content))  # type: ignore[attr-defined]
    found = probe(str(file))
    assert found.video and (found.video.codec, found.video.width) == ("hevc", 1920)
    assert (found.audio[0].codec, found.audio[0].channels) == ("aac", 2)
    assert found.duration_s == pytest.approx(4, abs=0.2)
    trials = f"household/devices/{phone['id']}/trials"
    failed = api("post", trials, {"line": "video.hevc", "works": False})[1]
    assert (sure(failed, "video.hevc"), sure(failed, "containers.mp4.mp4")) == ("doubtful", "known")
    assert next(one["why"] for one in failed["abilities"] if one["key"] == "video.hevc").startswith(
        "A test file did not"
    )
    played = api("post", trials, {"line": "video.hevc", "works": True})[1]
    assert sure(played, "video.hevc") == "proven"
    assert api("post", trials, {"line": "video.hevc", "works": True})[1]["code"] == "no_test_file"
    assert client.get(f"{address}/trials?line=video.h264").status_code == 400


def test_a_report_from_the_outbox_teaches_the_profile(api: Api, db: None, media: Path) -> None:
    tv = add_device("tv-2010", "Living room")
    file = media / "camera" / "launch of the ferry.avi"
    output = Output.objects.create(
        title_name="Launch", device_names=[tv.name], device_ids=[tv.pk], summary="", path=str(file), size_bytes=1,
        making_s=1, checking_s=1, expected={"size_bytes": 1, "size_low_bytes": 1, "size_high_bytes": 1, "time_s": 1,
        "time_low_s": 1, "time_high_s": 1, "measured": False}, checks=[],
    )  # fmt: skip
    said = api("get", f"outbox/{output.pk}")[1]["played_on"]
    assert said == [{"device_id": tv.pk, "device_name": "Living room", "reported": False, "trouble": None}]
    body = {"device_id": tv.pk, "trouble": None}
    status, told = api("post", f"outbox/{output.pk}/reports", body)
    assert (status, told["played_on"][0]["reported"]) == (200, True)
    tv.refresh_from_db()
    avi = next(entry for entry in tv.core_profile().containers if entry.extension == "avi")
    assert avi.sure is Sure.PROVEN
    told = api("post", f"outbox/{output.pk}/reports", {**body, "trouble": "silent"})[1]
    assert told["played_on"][0]["trouble"] == "silent"
    assert api("post", f"outbox/{output.pk}/reports", {"device_id": 999, "trouble": None})[0] == 404
    assert api("post", f"outbox/{output.pk}/reports", {**body, "trouble": "boring"})[0] == 400
    output.path = "/nowhere/film.mp4"
    output.save()
    assert api("post", f"outbox/{output.pk}/reports", body)[1]["code"] == "source_missing"


def test_a_newer_catalogue_brings_devices_forward_and_shows_what_changed(
    api: Api, db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    """As an upgrade does: the database is brought forward under a catalogue of a higher version."""
    changed, plain, theirs = add_device("tv-2013", "Changed"), add_device("tv-2013", "Plain"), own("gannet-43")
    learning.answer(changed, "mkv_played", yes=True)
    before = Device.objects.get(pk=changed.pk).profile
    base = catalogue()["tv-2013"]
    known = Ground(sure=Sure.KNOWN, rests_on="class", note="Known by now.")
    hevc = tuple(entry.model_copy(update={"ground": known.model_copy(update={"point": entry.ground.point})})
                 if entry.codec == "hevc" and entry.ground else entry for entry in base.video)  # fmt: skip
    newer = base.model_copy(update={"version": 2, "video": hevc, "containers": base.containers[:-1]})
    monkeypatch.setattr(renewing, "catalogue", lambda: {**catalogue(), "tv-2013": newer})
    call_command("migrate", verbosity=0, stdout=io.StringIO())
    documents = {entry["name"]: entry for entry in api("get", "household")[1]["devices"]}
    assert sure(documents["Plain"], "video.hevc") == sure(documents["Changed"], "video.hevc") == "known"
    assert sure(documents["Changed"], "containers.matroska.mkv") == "known"
    assert {entry["what"] for entry in documents["Plain"]["news"]} == {"changed", "gone"}
    assert documents[theirs.name]["news"] == []
    call_command("migrate", verbosity=0, stdout=io.StringIO())
    assert api("delete", f"household/devices/{plain.pk}/news")[1]["news"] == []
    back = api("delete", f"household/devices/{changed.pk}/kind")[1]
    assert (back["news"], back["can_take_back"]) == ([], False)
    assert Device.objects.get(pk=changed.pk).profile == before


def test_a_kind_that_was_changed_before_it_was_added_stays_one_and_rests_on_who_changed_it(api: Api, db: None) -> None:
    document = json.loads(api("get", "household/profiles/tv-2013")[1]["document"])
    document["name"] = "Ours"
    document["video"][0]["max_bitrate_bps"] = 12_000_000
    added = api("post", "household/own-devices", {"document": json.dumps(document), "name": ""})[1]
    assert (added["name"], added["kind_name"]) == ("Ours", catalogue()["tv-2013"].name)
    first, second = (one for one in added["abilities"] if one["key"] in ("video.h264", "video.mpeg2video"))
    assert (first["why"], second["why"] != "Written by hand.") == ("Written by hand.", True)
    document["version"] = 99
    document["limits"]["perhaps"]["settled_by"] = "asked_by_nobody"
    assert api("post", "household/own-devices", {"document": json.dumps(document)})[1]["kind_name"] == ""


def test_favourites_come_first_wherever_devices_are_listed(api: Api, household: list[int]) -> None:
    last = household[-1]
    assert api("patch", f"household/devices/{last}", {"favourite": True})[1]["favourite"] is True
    assert api("get", "household")[1]["devices"][0]["id"] == last
    assert api("get", "bench")[1]["targets"][0]["id"] == last
