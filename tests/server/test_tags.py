"""What works are called: found at the scan, set by hand for one or for many, and written into what is made."""

from __future__ import annotations

import io
import json
import subprocess
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.test import Client
from PIL import Image

from rheon.server.home.naming import house_naming
from rheon.server.live.snapshot import snapshot
from rheon.server.outbox.actions.tags import write_now
from rheon.server.outbox.models import Output
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import read_again
from rheon.server.shelf.actions.tags import propose_missing
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.actions.run import run_next

Api = Callable[..., Any]
Shelf = Callable[[str], Source]

pytestmark = pytest.mark.django_db(transaction=True)


def tags_of(api: Api, *titles: Title) -> list[dict[str, Any]]:
    address = "shelf/tags?" + "&".join(f"titles={title.pk}" for title in titles)
    rows: list[dict[str, Any]] = api("get", address)[1]["titles"]
    return rows


def change(api: Api, *changes: tuple[Title, str, str | None]) -> tuple[int, dict[str, Any]]:
    wanted = [{"title_id": title.pk, "tag": tag, "value": value} for title, tag, value in changes]
    return api("patch", "shelf/tags", {"changes": wanted})


def read(path: Path) -> dict[str, str]:
    """What the engine reads in a file."""
    argv = ["ffprobe", "-v", "error", "-show_format", "-of", "json", str(path)]
    said: dict[str, str] = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["format"]["tags"]
    return said


def episodes(name: str) -> list[Title]:
    return list(Title.objects.filter(source__name=name, role="episode").order_by("number"))


@pytest.fixture
def output(shelf: Shelf, api: Api, household: list[int]) -> Output:
    """A finished file of sound, which is quickly made."""
    shelf("MARRAM_NIGHTS")
    extra = Title.objects.get(number=4)
    api("post", "worklist/jobs", {"cells": [{"title_id": extra.pk, "target_id": household[3]}]})
    run_next()
    return Output.objects.get()


def test_discs_of_a_season_are_counted_on_in_whatever_order_they_came(shelf: Shelf, api: Api) -> None:
    shelf("LOCK_KEEPERS_D2")
    alone = tags_of(api, *episodes("Lock Keepers D2"))
    assert [row["tags"]["episode"]["value"] for row in alone] == ["1", "2", "3", "4"]
    assert "look at it" in alone[0]["tags"]["episode"]["reason"]
    shelf("LOCK_KEEPERS")
    both = tags_of(api, *episodes("Lock Keepers"), *episodes("Lock Keepers D2"))
    assert [row["file_name"] for row in both] == [f"Lock Keepers - S01E0{number}" for number in range(1, 9)]


def test_what_is_set_by_hand_stays_through_a_scan_and_can_be_given_back(shelf: Shelf, api: Api) -> None:
    source = shelf("LANTERN_STREET_S1.iso")
    one, two, *_ = episodes("Lantern Street S1")
    before = tags_of(api, one, two)
    status, said = change(api, (one, "title", "Slack Water"), (two, "show", "The Lamp"), (two, "season", ""))
    assert status == 200
    assert [row["file_name"] for row in said["titles"]] == [
        "Lantern Street - S01E01 - Slack Water", "The Lamp - E02",
    ]  # fmt: skip
    read_again(source)
    read_now(source.pk)
    assert tags_of(api, one, two) == said["titles"]
    assert tags_of(api, one)[0]["tags"]["title"]["by_hand"] is True
    change(api, (one, "title", None), (two, "show", None), (two, "season", None))
    assert tags_of(api, one, two) == before


def test_all_changes_are_made_or_none_and_what_is_wrong_is_said(shelf: Shelf, api: Api) -> None:
    shelf("LANTERN_STREET_S1.iso")
    one, two, *_ = episodes("Lantern Street S1")
    before = tags_of(api, one, two)
    for tag, value, told in (
        ("year", "next year", "no number"),
        ("kind", "opera", "no kind of content"),
        ("title", "x" * 300, "longer than"),
        ("colour", "red", "no decision"),
    ):
        status, said = change(api, (one, "title", "New"), (two, tag, value))
        assert status == 422 and told in json.dumps(said), said
    assert tags_of(api, one, two) == before
    assert change(api, (one, "title", "New"), (Title(pk=10**9), "title", "x"))[0] == 422
    assert tags_of(api, one, two) == before


def test_a_new_name_on_the_shelf_is_the_file_s_title(shelf: Shelf, api: Api) -> None:
    shelf("MARRAM_NIGHTS")
    film = Title.objects.get(source__name="Marram Nights", role="feature")
    change(api, (film, "title", "Other"), (film, "year", "1994"))
    api("patch", f"shelf/titles/{film.pk}", {"name": "The Marsh"})
    assert tags_of(api, film)[0]["file_name"] == "The Marsh (1994)"


def test_a_role_set_by_hand_is_another_kind_of_content(shelf: Shelf, api: Api) -> None:
    shelf("LOCK_KEEPERS")
    first, second, *_ = episodes("Lock Keepers")
    api("patch", f"shelf/titles/{first.pk}", {"role": "extra"})
    kinds = [row["tags"]["kind"]["value"] for row in tags_of(api, first, second)]
    assert kinds == ["extra", "episode"]
    assert tags_of(api, second)[0]["tags"]["episode"]["value"] == "1"


def test_titles_that_an_older_rheon_read_are_named_too(shelf: Shelf) -> None:
    shelf("LANTERN_STREET_S1.iso")
    Title.objects.update(tags_found=None)
    Source.objects.update(series="", disc=0)
    Source.objects.create(path="/not/read/yet", name="x")
    assert (propose_missing(), propose_missing()) == (1, 0)
    assert episodes("Lantern Street S1")[1].tags().tags.numbered == "S01E02"
    assert Source.objects.get(titles__number=1).series == "lantern street|1"


def test_patterns_are_tried_kept_and_given_back(api: Api) -> None:
    said = api("get", "home/naming")[1]
    assert said["preset"] == "flat" and {one["kind"] for one in said["patterns"]} == {
        "film", "episode", "extra", "sound",
    }  # fmt: skip
    tried = api("patch", "home/naming", {"patterns": {"film": "{{ year }} {{ title", "sound": "x"}, "only_try": True})
    faults = {one["kind"]: one["fault"] for one in tried[1]["patterns"]}
    assert faults["film"] and not faults["sound"] and house_naming().sound != "x"
    assert api("patch", "home/naming", {"patterns": {"film": "{{ nothing }}"}})[0] == 422
    assert api("patch", "home/naming", {"preset": "folders"})[1]["preset"] == "folders"
    own = api("patch", "home/naming", {"patterns": {"film": "{{ year }}/{{ title }}"}})[1]
    assert own["preset"] is None and own["patterns"][0]["example"] == "1994/Marram Nights"
    assert api("patch", "home/naming", {"preset": "flat"})[1]["preset"] == "flat"


def test_a_file_is_made_under_its_folders_with_its_tags_as_they_are_when_it_begins(
    shelf: Shelf, api: Api, household: list[int], settings: Any
) -> None:
    shelf("MARRAM_NIGHTS")
    extra = Title.objects.get(number=4)
    cell = {"title_id": extra.pk, "target_id": household[3]}
    assert api("post", "worklist/jobs", {"cells": [cell]})[0] == 201
    # what waits is called as it is called when it begins
    api("patch", "home/naming", {"preset": "folders"})
    change(api, (extra, "title", "The boats / at dawn"), (extra, "show", "Marram Nights"), (extra, "genre", "Short"))
    run_next()
    made = settings.RHEON_OUTPUT_FOLDER / "Marram Nights" / "Extras" / "The boats - at dawn.mp3"
    said = read(made)
    assert (said["title"], said["album"], said["genre"]) == ("The boats / at dawn", "Marram Nights", "Short")
    output = api("get", f"outbox/{api('get', 'outbox')[1]['outputs'][0]['id']}")[1]
    assert (output["file_name"], output["folder"]) == (made.name, "output/Marram Nights/Extras")


def test_a_finished_file_gets_other_tags_and_another_name(output: Output, api: Api, settings: Any) -> None:
    first = Path(output.path)
    beside = first.with_name(f"{first.stem}.en.srt")
    beside.write_text("1")
    told = api("get", f"outbox/{output.pk}")[1]["tags"]
    assert {tag["name"]: tag["value"] for tag in told["tags"]}["title"] == "Marram Nights, extra 3"
    address = f"outbox/{output.pk}/tags"
    assert api("patch", address, {"tags": {"year": "x"}})[0] == 422
    assert api("patch", address, {"tags": {"colour": "red"}})[0] == 422
    before = snapshot().marks.outbox
    said = api("patch", address, {"tags": {"title": "The boats", "year": "1994"}})[1]
    assert said["tags"]["writing"] is True
    write_now(output.pk)
    # as a page sees it that heard of neither the beginning nor the end
    assert snapshot().marks.outbox != before
    assert (read(first)["title"], read(first)["date"]) == ("The boats", "1994")
    api("patch", "home/naming", {"preset": "folders"})
    assert api("get", f"outbox/{output.pk}")[1]["tags"]["proposed_name"] == "Extras/The boats.mp3"
    api("patch", address, {"tags": {"genre": "Short"}, "rename": True})
    write_now(output.pk)
    said = api("get", f"outbox/{output.pk}")[1]
    made = settings.RHEON_OUTPUT_FOLDER / "Extras" / "The boats.mp3"
    assert (said["file_name"], said["folder"], said["tags"]["writing"]) == (made.name, "output/Extras", False)
    assert read(made)["genre"] == "Short" and made.stat().st_size == said["size_bytes"]
    assert sorted(path.name for path in settings.RHEON_OUTPUT_FOLDER.rglob("*.*")) == ["The boats.en.srt", made.name]


def test_what_is_set_in_the_sheet_afterwards_comes_into_the_files_that_were_made(
    output: Output, api: Api, settings: Any
) -> None:
    title = Title.objects.get(pk=output.title_id)
    address = f"outbox/outdated?titles={title.pk}"
    assert api("get", address)[1] == {"files": [], "writing": 0}
    change(api, (title, "title", "The boats"), (title, "year", "1994"))
    (outdated,) = api("get", address)[1]["files"]
    assert (outdated["output_id"], outdated["file_name"], outdated["becomes"]) == (
        output.pk, "Marram Nights, extra 3.mp3", "The boats.mp3",
    )  # fmt: skip
    assert api("post", "outbox/outdated", {"titles": [title.pk]}) == (202, {"files": [], "writing": 1})
    write_now(output.pk)
    assert api("get", address)[1] == {"files": [], "writing": 0}
    made = settings.RHEON_OUTPUT_FOLDER / "The boats.mp3"
    assert (read(made)["title"], read(made)["date"]) == ("The boats", "1994")
    # a name that somebody gave the file stays, and so does what was set for it alone
    api("patch", f"outbox/{output.pk}/tags", {"tags": {"genre": "Short", "title": "The boats"}})
    write_now(output.pk)
    made = made.rename(made.with_name("ours.mp3"))
    Output.objects.filter(pk=output.pk).update(path=str(made))
    change(api, (title, "genre", "Home film"), (title, "title", "Boats"))
    assert api("get", address)[1]["files"][0]["becomes"] == "ours.mp3"
    api("post", "outbox/outdated", {"titles": [title.pk], "rename": True})
    write_now(output.pk)
    assert (read(made)["title"], read(made)["genre"]) == ("Boats", "Short")
    made.unlink()
    change(api, (title, "title", "Again"))
    assert api("get", address)[1]["files"] == []


def test_a_finished_file_gets_the_artwork_of_its_title_and_loses_it(output: Output, api: Api, client: Client) -> None:
    seen = f"/api/outbox/{output.pk}/artwork.jpg"
    assert client.get(seen).status_code == 204
    address = f"outbox/{output.pk}/tags"
    path = Path(output.path)
    offered = api("get", f"outbox/{output.pk}")[1]["tags"]["artwork"]
    assert [choice["value"] for choice in offered] == ["kept", "title", "none"]
    api("put", f"shelf/titles/{output.title_id}/artwork", {"cover": {"at_s": 6.0, "shape": "1:1"}})
    beside = path.with_suffix(".jpg")
    beside.write_bytes(b"beside")

    def inside() -> list[str]:
        argv = ["ffprobe", "-v", "error", "-select_streams", "v", "-show_entries", "stream=width,height", "-of", "csv"]
        return subprocess.run([*argv, str(path)], check=True, capture_output=True, text=True).stdout.split()

    assert inside() == []
    api("patch", address, {"tags": {}, "artwork": "title"})
    write_now(output.pk)
    assert inside() == ["stream,600,600"]
    assert Image.open(io.BytesIO(client.get(seen).content)).size == (320, 320)
    api("patch", address, {"tags": {"title": "The boats"}, "rename": True})
    write_now(output.pk)
    path = Path(Output.objects.get().path)
    assert inside() == ["stream,600,600"] and path.with_suffix(".jpg").read_bytes() == b"beside"
    api("patch", address, {"tags": {}, "artwork": "none"})
    write_now(output.pk)
    assert inside() == []
    Title.objects.all().delete()
    api("patch", address, {"tags": {}, "artwork": "title"})
    write_now(output.pk)
    assert "not on the Shelf" in api("get", f"outbox/{output.pk}")[1]["tags"]["error"]


def test_a_file_that_can_t_be_tagged_stays_as_it_is_and_says_why(output: Output, api: Api, settings: Any) -> None:
    Path(output.path).write_bytes(b"no sound at all")
    api("patch", f"outbox/{output.pk}/tags", {"tags": {"title": "The boats"}})
    write_now(output.pk)
    said = api("get", f"outbox/{output.pk}")[1]["tags"]
    assert "can't be tagged" in said["error"] and said["writing"] is False
    assert {tag["name"]: tag["value"] for tag in said["tags"]}["title"] == "Marram Nights, extra 3"
    assert [path.read_bytes() for path in settings.RHEON_OUTPUT_FOLDER.iterdir()] == [b"no sound at all"]
    Path(output.path).unlink()
    assert api("patch", f"outbox/{output.pk}/tags", {"tags": {"title": "x"}})[0] == 404
