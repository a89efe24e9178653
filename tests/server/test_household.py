from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from tests.server.conftest import own

from rheon.core.descriptions import abilities
from rheon.core.devices import DeviceProfile, catalogue
from rheon.demo.models import device
from rheon.server.household.models import Device

Api = Callable[..., Any]


def test_the_household_shows_devices_and_the_catalogue_as_promised(api: Api, household: list[int]) -> None:
    status, document = api("get", "household")
    assert status == 200
    assert [entry["id"] for entry in document["devices"]] == household
    assert {entry["id"] for entry in document["catalogue"]} == set(catalogue())


@pytest.mark.parametrize(
    ("name", "topic", "texts"),
    [
        ("heron-8", "Screen", ["1280 × 800 pixels, 8 inches"]),
        ("heron-8", "Files", ["MP4 (.mp4)"]),
        ("heron-8", "Picture", ["H.264 level 3.1 up to 1280 × 720 at 30 frames a second (changing frame rates)"]),
        ("heron-8", "Limits", ["no file over 2 GB, 32 GB of storage"]),
        ("gannet-43", "Sound", ["AC-3 in 5.1 surround", "AAC in stereo", "MP3 in stereo"]),
        ("gannet-43", "Limits", ["no file over 4.3 GB"]),
        ("sound-only", "Picture", ["none: it plays sound only"]),
        ("sound-only", "Subtitles", []),
        ("heron-8", "Subtitles", ["drawn into the picture"]),
    ],
)
def test_abilities_are_said_in_words(name: str, topic: str, texts: list[str]) -> None:
    assert [one.text for one in abilities(device(name)) if one.topic == topic] == texts


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_every_ability_says_what_it_rests_on_and_the_surest_comes_first(profile: DeviceProfile) -> None:
    found = abilities(profile)
    assert all(one.text and (one.why or one.point) for one in found)
    order = ("proven", "known", "supposed", "doubtful")
    for topic in {one.topic for one in found}:
        ranks = [order.index(one.sure) for one in found if one.topic == topic]
        assert ranks == sorted(ranks)


def test_every_device_of_the_catalogue_can_be_owned_and_described(api: Api, db: None) -> None:
    for profile_id in catalogue():
        status, document = api("post", "household/devices", {"profile_id": profile_id})
        assert status == 201
        assert document["profile"]["summary"]
        assert all(fact["text"] for fact in document["abilities"])
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
    cells = {cell["target_id"]: cell["by_hand"] for cell in api("get", f"bench/cells?titles={film.pk}")[1]}
    assert cells == {household[1]: True, household[2]: False, household[3]: False}


def test_the_household_s_languages_decide_over_sound_and_subtitles(
    api: Api, household: list[int], shelf: Callable[[str], Any]
) -> None:
    film = shelf("MARRAM_NIGHTS").titles.get(number=1)
    said = {}
    for languages in (["en"], ["es"], ["ja"]):
        api("patch", "household", {"languages": languages})
        sheet = api("get", f"bench/plans/{film.pk}/{household[1]}")[1]
        texts = {decision["key"]: decision["text"] for decision in sheet["decisions"]}
        said[languages[0]] = (texts["sound.track"], texts["subtitles.track"])
    assert said == {
        "en": ("English, 5.1", "none"),
        "es": ("Spanish, stereo", "none"),
        "ja": ("English, 5.1", "none"),
    }


def test_a_device_is_found_by_a_sentence_or_answer_by_answer(api: Api, db: None) -> None:
    status, heard = api("get", "household/finding?typed=tablet, about 2015, small screen")
    assert status == 200
    assert (heard["kind"], heard["year"], heard["yes"]) == ("tablet", 2015, ["small"])
    assert heard["found"][0]["profile"]["id"] == "tablet-small-2013"
    assert 0 < len(heard["found"][0]["questions"]) <= 3
    asked = api("get", "household/finding?kind=tablet&year=2015&no=small&unknown=for_children")[1]
    assert asked["found"][0]["profile"]["id"] == "tablet-2013"
    assert "for_children" not in {question["id"] for question in asked["found"][0]["questions"]}
    assert api("get", "household/finding?kind=toaster")[0] == 400
    assert api("get", "household/finding?yes=rubbish")[0] == 400
    assert api("get", "household/finding?typed=xyzzy")[1]["found"] == []


def test_what_was_answered_before_is_known_of_the_added_device(api: Api, db: None) -> None:
    body = {"profile_id": "phone-2015", "name": "", "yes": ["camera_films_4k"], "no": ["mkv_played"]}
    status, added = api("post", "household/devices", body)
    assert (status, added["name"], added["kind_name"]) == (201, "Phone", "Phone, about 2015–2017")
    assert added["questions"] == []
    assert {one["sure"] for one in added["abilities"] if one["key"] in ("video.hevc", "video.h264#2")} == {"known"}
    second = api("post", "household/devices", {"profile_id": "phone-2015"})[1]
    assert second["name"] == "Phone 2"
    status, refused = api("patch", f"household/devices/{second['id']}", {"name": "PHONE"})
    assert (status, refused["code"]) == (400, "name_taken")


def test_a_profile_is_saved_to_a_file_and_taken_from_one(api: Api, client: Any, db: None) -> None:
    mine = own("heron-8")
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
