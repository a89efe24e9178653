from __future__ import annotations

import json
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from rheon.core.devices import CLIPS, DeviceAnswers, asked_profile, catalogue, load_profile, oddities
from rheon.demo.models import device
from rheon.server.bench.targets import targets
from rheon.server.codes import MOST_WRONG
from rheon.server.household.actions import pairing
from rheon.server.household.models import Device, Pairing
from rheon.server.household.queries import devices

Api = Callable[..., Any]


def test_a_device_s_own_word_goes_before_its_member_s_and_that_before_the_household_s(
    api: Api, household: list[int], shelf: Callable[[str], Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    api("patch", "household", {"languages": ["en"], "sound": "surround"})
    child = api("post", "household/members", {"name": "The children"})[1]["members"][0]["id"]
    api("patch", f"household/members/{child}", {"languages": ["es", "en"], "subtitles": "always"})
    tablet = f"household/devices/{household[1]}"
    assert api("patch", tablet, {"member_id": child})[1]["member_id"] == child

    def said() -> tuple[str, str]:
        sheet = api("get", f"bench/plans/{film.pk}/{household[1]}")[1]
        texts = {decision["key"]: decision["text"] for decision in sheet["decisions"]}
        return texts["sound.track"], texts["subtitles.track"].partition(",")[0]

    assert said() == ("Spanish, stereo", "Spanish")
    api("patch", tablet, {"languages": ["en"], "subtitles": "never"})
    assert said() == ("English, 5.1", "none")
    api("delete", f"household/members/{child}")
    assert said() == ("English, 5.1", "none")
    api("patch", tablet, {"subtitles": ""})
    assert api("patch", tablet, {"member_id": 999})[0] == 404


def test_usual_devices_come_first_and_fade_with_time(household: list[int]) -> None:
    now = timezone.now()
    first, second, third, fourth = household
    Device.objects.filter(pk=third).update(used=3, last_used=now - timedelta(days=1))
    Device.objects.filter(pk=fourth).update(used=5, last_used=now - timedelta(days=300))
    assert [row.pk for row in devices(now)] == [third, first, second, fourth]
    assert [row.device_id for row in targets(now)] == [third, first, second, fourth]


def test_a_profile_that_is_being_written_gets_errors_by_field_and_warnings(api: Api, db: None) -> None:
    document = device("heron-8").model_dump(mode="json")
    good = api("post", "household/profile-check", {"document": json.dumps(document)})[1]
    assert (good["errors"], good["warnings"]) == ([], [])
    document["video"][0] |= {"max_width": 3840, "max_height": 2160, "max_bitrate_bps": 90_000_000}
    odd = api("post", "household/profile-check", {"document": json.dumps(document)})[1]
    assert {entry["field"] for entry in odd["warnings"]} == {"video.0.max_level", "video.0.max_bitrate_bps"}
    document["video"][0]["max_level"] = "77"
    document["name"] = ""
    bad = api("post", "household/profile-check", {"document": json.dumps(document)})[1]
    assert {entry["field"] for entry in bad["errors"]} == {"video.0", "name"}


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_no_shipped_profile_promises_more_than_its_levels(profile: Any) -> None:
    rates = [found for found in oddities(profile) if not found.field.endswith("max_frame_rate")]
    assert rates == []


def test_a_device_is_edited_in_place(api: Api, household: list[int]) -> None:
    document = device("heron-8").model_dump(mode="json") | {"name": "Ours"}
    changed = api("put", f"household/devices/{household[1]}", {"document": json.dumps(document)})[1]
    assert (changed["profile"]["name"], changed["name"]) == ("Ours", "Heron 8")
    assert api("put", f"household/devices/{household[1]}", {"document": "{}"})[1]["code"] == "bad_profile"


PLAYED = {"played": "yes", "frames": 20, "dropped": 0, "supported": True}


def answers(**clips: dict[str, Any]) -> dict[str, Any]:
    listed = [{"id": name.replace("_", "-"), **said} for name, said in clips.items()]
    return {"width": 1080, "height": 2400, "touch": True, "clips": listed}


def test_what_was_really_played_goes_before_what_was_said() -> None:
    said = answers(
        h264_sd=PLAYED,
        h264_full=PLAYED,
        h264_uhd={"played": "yes", "frames": 20, "dropped": 12, "supported": True},
        hevc_full={"played": "no", "supported": True},
        vp9_full={"played": "untried", "can_play": "probably"},
        av1_full={"played": "untried", "can_play": "maybe"},
        aac_stereo=PLAYED,
        ac3_surround={"played": "no"},
    )
    profile = asked_profile(DeviceAnswers.model_validate(said), "Mine")
    assert [(entry.codec, entry.max_height, entry.max_level) for entry in profile.video] == [
        ("h264", 1080, "4"),
        ("vp9", 1080, "4"),
    ]
    assert [entry.codec for entry in profile.audio] == ["aac"]
    assert (profile.screen.width, profile.kind.value) == (2400, "phone") if profile.screen else False
    notes = {entry.line: (entry.rests_on, entry.note) for entry in profile.evidence}
    assert notes["HEVC 1920 × 1080 at 30"] == ("played", "Left out: it says that it plays this, but it did not play.")
    assert "too many frames were dropped" in notes["H.264 3840 × 2160 at 30"][1]
    assert notes["VP9 1920 × 1080 at 30"][0] == "said"
    assert load_profile(profile.model_dump_json()) == profile


def test_a_device_that_plays_nothing_makes_no_profile() -> None:
    with pytest.raises(ValueError, match="none of the sounds"):
        asked_profile(DeviceAnswers.model_validate(answers(h264_sd=PLAYED)), "Mine")


@pytest.fixture
def paired(settings: Any, db: None) -> Client:
    settings.ROOT_URLCONF = "rheon.server.config.device_urls"
    settings.ALLOWED_HOSTS = ["*"]
    return Client(headers={"host": "192.0.2.7:8421"})


def test_nobody_is_let_in_until_pairing_is_on_and_then_by_its_code_only(paired: Client) -> None:
    assert paired.get("/abcdef").status_code == 404
    row = pairing.open_pairing()
    assert paired.get(f"/{row.code}").status_code == 200
    assert paired.get("/wrong1").status_code == 404
    assert len(paired.get(f"/{row.code}/clips.json").json()["clips"]) == len(CLIPS)
    assert paired.get("/", {"code": row.code.upper()}).headers["Location"] == f"/{row.code}"
    Pairing.objects.update(open_until=timezone.now() - timedelta(seconds=1))
    assert paired.get(f"/{row.code}").status_code == 404


def test_answers_that_are_nested_without_end_are_refused(paired: Client) -> None:
    row = pairing.open_pairing()
    answer = paired.post(f"/{row.code}/answers", "[" * 60_000, content_type="application/json")
    assert (answer.status_code, pairing.pairing().is_open) == (400, True)


def test_ten_wrong_codes_end_pairing_and_say_so(paired: Client, api: Api, settings: Any) -> None:
    row = pairing.open_pairing()
    for _ in range(MOST_WRONG):
        assert paired.get("/zzzzzz").status_code == 404
    assert paired.get(f"/{row.code}").status_code == 404
    assert "wrong codes" in pairing.pairing().problem


def test_answers_spend_the_code_and_wait_in_the_household(paired: Client, api: Api, settings: Any) -> None:
    row = pairing.open_pairing()
    address = f"/{row.code}/answers"
    assert paired.post(address, b"nonsense", content_type="application/json").status_code == 400
    assert paired.post(address, {"width": 0}, content_type="application/json").status_code == 400
    said = answers(h264_sd=PLAYED, aac_stereo=PLAYED)
    assert paired.post(address, said, content_type="application/json").json() == {"taken": True}
    assert paired.post(address, said, content_type="application/json").status_code == 404
    settings.ROOT_URLCONF = "rheon.server.config.urls"
    settings.ALLOWED_HOSTS = ["127.0.0.1", "testserver"]
    found = api("get", "household/pairing")[1]
    assert (found["open"], found["document"]["video"][0]["codec"]) == (False, "h264")
    added = api("post", "household/own-devices", {"document": json.dumps(found["document"]), "name": "Nan’s phone"})[1]
    assert (added["name"], added["evidence"][0]["rests_on"]) == ("Nan’s phone", "played")
    assert api("get", "household/pairing")[1]["document"] is None


def test_what_a_browser_played_goes_into_the_device_that_is_there(paired: Client, api: Api, settings: Any) -> None:
    row = pairing.open_pairing()
    said = answers(hevc_full=PLAYED, hevc_ten=PLAYED, aac_stereo=PLAYED)
    paired.post(f"/{row.code}/answers", said, content_type="application/json")
    settings.ROOT_URLCONF = "rheon.server.config.urls"
    settings.ALLOWED_HOSTS = ["127.0.0.1", "testserver"]
    tv = api("post", "household/devices", {"profile_id": "tv-2016"})[1]
    found = api("get", "household/pairing")[1]
    after = api("post", f"household/devices/{tv['id']}/asked", {"document": json.dumps(found["document"])})[1]
    hevc = next(one for one in after["abilities"] if one["key"] == "video.hevc")
    assert (hevc["sure"], after["is_changed"]) == ("proven", True)
    assert [entry["rests_on"] for entry in after["evidence"]][:3] == ["played"] * 3
    assert Device.objects.count() == 1
    assert api("get", "household/pairing")[1]["document"] is None


def test_a_device_reaches_no_other_address(paired: Client) -> None:
    row = pairing.open_pairing()
    for path in ("/api/household", "/shelf", "/static/x", f"/{row.code}/clips/../../etc", "/api/shelf/sources"):
        assert paired.get(path).status_code == 404


def test_the_household_shows_where_to_go_as_an_address_and_a_code_that_reads(api: Api, db: None) -> None:
    opened = api("post", "household/pairing")[1]
    assert opened["open"] and len(opened["code"]) == pairing.CODE_LENGTH
    assert opened["address"].startswith("http://") and opened["qr"].startswith("M")
    assert opened["qr_size"] >= 21
    assert api("delete", "household/pairing")[1]["open"] is False
