"""Looking through the library: what is in it, on which devices it plays as it is, and what is there twice."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.core.checking import read_facts
from rheon.core.handover import holdings
from rheon.server.household.models import Device
from rheon.server.outbox.actions import library
from rheon.server.outbox.models import LibraryFile, LibraryLook, Storage
from rheon.server.upkeep import hints

Api = Callable[..., Any]


@pytest.fixture
def films(own_media: Path, media: Path, household: list[int]) -> Path:
    """A library of four files of two films and a broken one, in a folder that files may go to."""
    folder = own_media / "library"
    (folder / "x").mkdir(parents=True)
    episodes = sorted((media / "Tide Watch").glob("*.mp4"))
    shutil.copy(episodes[0], folder / "Tide Watch S01E01.mp4")
    shutil.copy(episodes[0], folder / "x" / "tide copy.mp4")
    shutil.copy(next((media / "camera").iterdir()), folder / "Beach.mp4")
    (folder / "Broken film.mkv").write_bytes(b"nothing of a film")
    Storage.objects.create(device=None, volume_id=str(folder), label="library")
    return folder


def told(api: Api, query: str = "") -> Any:
    status, said = api("get", f"outbox/library{query}")
    assert status == 200
    return said


def looked(api: Api) -> Any:
    assert api("post", "outbox/library")[0] == 202
    library.look_now()
    return told(api)


@pytest.mark.django_db(transaction=True)
def test_what_is_in_it_and_for_which_device_and_what_is_double(films: Path, api: Api) -> None:
    assert told(api)["here"] and told(api)["looked"] is None and not told(api)["files"]
    said = looked(api)
    assert [file["path"] for file in said["files"]] == [
        "Beach.mp4", "Broken film.mkv", "Tide Watch S01E01.mp4", "x/tide copy.mp4",
    ]  # fmt: skip
    assert said["count"] == 4 and said["double"] == 2 and said["looked"] and not said["looking"]
    beach, broken, episode, again = said["files"]
    assert broken["trouble"] and not broken["about"] and not broken["not_on"]
    assert episode["about"].startswith("MP4 with H.264") and episode["twice"] == ["x/tide copy.mp4"]
    assert again["twice"] == ["Tide Watch S01E01.mp4"] and not beach["twice"] and not beach["alike"]
    assert len(said["devices"]) == Device.objects.count()
    for device in said["devices"]:
        without = told(api, f"?shown=not_on&device_id={device['device_id']}")["files"]
        assert device["plays"] == 4 - len(without), "what it does not play, and what is no film"
        for file in without:
            mine = [one for one in file["not_on"] if one["device_id"] == device["device_id"]]
            assert mine[0]["why"] if file["about"] else file["trouble"]
    assert {file["path"] for file in told(api, "?shown=double")["files"]} == {episode["path"], again["path"]}


@pytest.mark.django_db(transaction=True)
def test_only_what_changed_is_read_again_and_what_is_gone_is_forgotten(
    films: Path, api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    looked(api)
    read: list[str] = []

    def noted(path: Path) -> Any:
        read.append(path.name)
        return read_facts(path)

    monkeypatch.setattr(holdings, "read_facts", noted)
    (films / "Beach.mp4").unlink()
    (films / "x" / "tide copy.mp4").write_bytes(b"now another")
    said = looked(api)
    assert [file["path"] for file in said["files"]] == ["Broken film.mkv", "Tide Watch S01E01.mp4", "x/tide copy.mp4"]
    assert said["double"] == 0 and said["files"][2]["trouble"] and read == ["tide copy.mp4"]


@pytest.mark.django_db(transaction=True)
def test_it_is_stopped_goes_on_and_is_not_lost_with_its_worker(
    films: Path, api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(library, "TELL_EVERY_S", 0.0)
    hold = holdings.hold

    def stopped(root: Path, path: Path, known: Any) -> Any:
        found = hold(root, path, known)
        assert api("delete", "outbox/library")[0] == 204
        return found

    monkeypatch.setattr(library, "hold", stopped)
    assert looked(api)["looked"] is None and LibraryFile.objects.count() == 1, "what was read stays known"
    monkeypatch.setattr(library, "hold", hold)
    library.want_look()
    assert any("library" in task.module_path for task, _ in hints._wanted()), "somebody still wants it"
    library.look_now()
    assert told(api)["count"] == 4
    library.want_look()
    library.give_up_look()
    assert "log" in told(api)["problem"]


@pytest.mark.django_db(transaction=True)
def test_a_library_that_went_away_keeps_what_is_known(films: Path, api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    looked(api)
    library.want_look()
    away = films.with_name("elsewhere")
    hold = holdings.hold

    def pulled(root: Path, path: Path, known: Any) -> Any:
        if films.exists():
            films.rename(away)
        return hold(root, path, known)

    monkeypatch.setattr(library, "hold", pulled)
    library.look_now()
    said = told(api)
    assert not said["here"] and "went away" in said["problem"] and said["count"] == 4
    assert api("post", "outbox/library")[0] == 409
    assert LibraryLook.objects.get().looked
    away.rename(films)
    other = films.parent
    Storage.objects.update(volume_id=str(other))
    assert told(api)["here"] and told(api)["looked"] is None and not told(api)["count"], "of another it is not known"
