from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest

from rheon.core.devices import catalogue, device
from rheon.server.household.actions.devices import add_device
from rheon.server.household.capabilities import capabilities
from rheon.server.household.documents import HouseholdSerializer
from rheon.server.household.models import Device

Api = Callable[..., Any]


def test_the_household_shows_devices_and_the_catalogue_as_promised(api: Api, household: list[int]) -> None:
    status, document = api("get", "household")
    assert status == 200
    assert set(document) == set(HouseholdSerializer().fields)
    assert [entry["id"] for entry in document["devices"]] == household
    assert set(document["devices"][0]) == set(HouseholdSerializer().fields["devices"].child.fields)
    assert {entry["id"] for entry in document["catalogue"]} == set(catalogue())


@pytest.mark.parametrize(
    ("name", "topic", "text"),
    [
        ("heron-8", "Screen", "1280 × 800 pixels, 8 inches"),
        ("heron-8", "Files", "MP4 (.mp4)"),
        ("heron-8", "Picture", "H.264 level 3.1 up to 1280 × 720 at 30 frames a second (changing frame rates)"),
        ("heron-8", "Limits", "no file over 2 GB, 32 GB of storage"),
        ("gannet-43", "Sound", "AC-3 in 5.1 surround; AAC in stereo; MP3 in stereo"),
        ("gannet-43", "Limits", "no file over 4.3 GB"),
        ("sound-only", "Picture", "none: it plays sound only"),
        ("sound-only", "Subtitles", "none"),
        ("heron-8", "Subtitles", "drawn into the picture"),
    ],
)
def test_abilities_are_said_in_words(name: str, topic: str, text: str) -> None:
    assert dict(capabilities(device(name)))[topic] == text


def test_every_device_of_the_catalogue_can_be_owned_and_described(api: Api, db: None) -> None:
    for profile_id in catalogue():
        status, document = api("post", "household/devices", {"profile_id": profile_id})
        assert status == 201
        assert document["profile"]["summary"]
        assert all(fact["text"] for fact in document["capabilities"])
    assert Device.objects.count() == len(catalogue())
    assert list(Device.objects.values_list("position", flat=True)) == list(range(1, len(catalogue()) + 1))


def test_a_device_is_renamed_and_never_left_without_a_name(api: Api, household: list[int]) -> None:
    address = f"household/devices/{household[0]}"
    assert api("patch", address, {"name": " Ben’s phone "})[1]["name"] == "Ben’s phone"
    assert api("patch", address, {"name": ""})[0] == 400
    assert api("get", "household")[1]["devices"][0]["name"] == "Ben’s phone"


def test_removing_a_device_takes_its_settings_and_leaves_the_rest(
    api: Api, household: list[int], shelf: Callable[[str], Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    for owned in household[:2]:
        api("patch", f"bench/plans/{film.pk}/{owned}", {"balance": "lean"})
    assert api("delete", f"household/devices/{household[0]}")[0] == 204
    cells = {cell["device_id"]: cell["by_hand"] for cell in api("get", f"bench/cells?titles={film.pk}")[1]}
    assert cells == {household[1]: True, household[2]: False, household[3]: False}


def test_the_household_s_languages_decide_over_sound_and_words(
    api: Api, household: list[int], shelf: Callable[[str], Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    said = {}
    for languages in (["en"], ["es"], ["ja"]):
        api("patch", "household", {"languages": languages})
        sheet = api("get", f"bench/plans/{film.pk}/{household[1]}")[1]
        texts = {decision["key"]: decision["text"] for decision in sheet["decisions"]}
        said[languages[0]] = (texts["sound.track"], texts["words.subtitle"])
    assert said == {
        "en": ("English, 5.1", "none"),
        "es": ("Spanish, stereo", "none"),
        "ja": ("English, 5.1", "none"),
    }


def test_the_nearest_devices_come_with_what_differs(api: Api, db: None) -> None:
    status, found = api(
        "get", "household/nearest?kind=tv&year=2016&screen_width=3840&screen_height=2160&plays_uhd=true"
    )
    assert status == 200
    assert (found[0]["profile"]["id"], found[0]["differences"]) == ("gannet-50", [])
    assert len(found) == 5
    older = api("get", "household/nearest?kind=phone&year=2010")[1][0]
    assert older["profile"]["id"] == "godwit-s"
    assert api("get", "household/nearest?kind=toaster")[0] == 400


def test_a_profile_is_saved_to_a_file_and_taken_from_one(api: Api, client: Any, db: None) -> None:
    mine = add_device("heron-8")
    saved = client.get(f"/api/household/devices/{mine.pk}/profile.json")
    assert saved.headers["Content-Disposition"] == 'attachment; filename="heron-8.json"'
    document = json.loads(saved.content)
    document["name"], document["video"][0]["max_level"] = "My tablet", "4"
    status, added = api("post", "household/own-devices", {"document": json.dumps(document), "name": ""})
    assert (status, added["name"]) == (201, "My tablet")
    assert added["document"]["video"][0]["max_level"] == "4"
    document["video"][0]["max_level"] = "99"
    document["limits"] = {"file_system": "floppy"}
    status, refused = api("post", "household/own-devices", {"document": json.dumps(document)})
    assert (status, refused["code"]) == (400, "bad_profile")
    assert "video.0" in refused["message"]
    assert "limits.file_system" in refused["message"]
    assert api("post", "household/own-devices", {"document": "not json"})[1]["code"] == "bad_profile"
