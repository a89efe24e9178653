"""What people set by hand, what changes under the Shelf, what is found out later, and the drive."""

from __future__ import annotations

import itertools
import os
import shutil
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.core.analysis.scenes import changes_between
from rheon.core.engine import probe
from rheon.demo.drive import BLANK, SPIN_UP_S
from rheon.server.live.snapshot import snapshot
from rheon.server.shelf import drives
from rheon.server.shelf.actions import samples
from rheon.server.shelf.actions.cache import clean_up
from rheon.server.shelf.actions.chapters import make_chapters
from rheon.server.shelf.actions.looking import look_over
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.samples import sample_title
from rheon.server.shelf.actions.surveys import survey_now
from rheon.server.shelf.models import Finding, Source, Title

from .conftest import read

Api = Callable[..., Any]
Shelf = Callable[[str], Source]


def test_what_is_set_by_hand_stays_after_a_re_scan_and_can_be_given_back(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS")
    title = source.titles.get(number=2)
    changed = api("patch", f"shelf/titles/{title.pk}", {"role": "extra", "name": "The weir"})[1]
    assert (changed["role"], changed["name"], changed["reasons"]) == ("extra", "The weir", ["set by hand"])
    assert api("patch", f"shelf/titles/{title.pk}/chapters/2", {"name": "Low water"})[0] == 204
    assert api("patch", f"shelf/sources/{source.pk}", {"name": "Grandfather's disc"})[0] == 204
    read_now_again(source, api)
    document = api("get", f"shelf/titles/{title.pk}")[1]
    assert (document["role"], document["name"], document["chapters"][1]["name"]) == ("extra", "The weir", "Low water")
    assert Source.objects.get().name == "Grandfather's disc"
    back = api("patch", f"shelf/titles/{title.pk}", {"role": None})[1]
    assert (back["role"], back["role_by_hand"]) == ("episode", False)
    assert back["reasons"] == ["one of 4 titles of similar length: a series"]
    api("patch", f"shelf/sources/{source.pk}", {"name": ""})
    assert Source.objects.get().name == "Lock Keepers"


def read_now_again(source: Source, api: Api) -> None:
    assert api("post", f"shelf/sources/{source.pk}/read-again")[0] == 202
    read_now(source.pk)


def test_how_many_bits_a_title_needs_is_measured_once_for_the_same_material(
    shelf: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    source = shelf("camera/Kite day.mp4")
    sample_title(source.titles.get().pk)
    measured = source.titles.get().samples
    assert measured and measured["fine_bits"] > measured["coarse_bits"] > 0
    source.delete()
    monkeypatch.setattr(samples, "sample_pictures", lambda title: pytest.fail("it is known"))
    again = shelf("camera/Kite day.mp4").titles.get()
    sample_title(again.pk)
    again.refresh_from_db()
    assert (again.samples, again.samples_failed) == (measured, False)


def test_named_chapters_go_into_the_file_s_plan(shelf: Shelf, api: Api) -> None:
    title = shelf("LOCK_KEEPERS").titles.get(number=2)
    api("patch", f"shelf/titles/{title.pk}/chapters/1", {"name": "Opening"})
    title.refresh_from_db()
    assert [chapter.name for chapter in title.core_title().chapters] == ["Opening", None]
    assert api("patch", f"shelf/titles/{title.pk}/chapters/9", {"name": "x"})[1]["code"] == "no_such_title"


def test_a_list_is_tried_taken_given_to_the_series_and_given_back(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS")
    one, two = source.titles.get(number=2), source.titles.get(number=3)
    address = f"shelf/titles/{one.pk}/chapters"
    before = api("get", f"shelf/titles/{one.pk}")[1]
    assert two.pk in before["chapters_alike"] and before["chapters_by_hand"] is False
    tried = api("post", address, {"text": "1. Ebb\n2. Flood\n3. Spring"})[1]
    assert [chapter["name"] for chapter in tried["chapters"]] == ["Ebb", "Flood"] and "3 names" in tried["told"][0]
    patterned = api("post", address, {"pattern": "{{ show }} {{ number }}"})[1]["chapters"]
    assert [chapter["name"] for chapter in patterned] == ["Lock Keepers 1", "Lock Keepers 2"]
    assert api("post", address, {"text": "0:00 Ebb\nFlood"})[1]["code"] == "bad_chapters"
    assert api("post", address, {"text": "5:00:00 Ebb"})[1]["code"] == "bad_chapters"
    assert api("get", f"shelf/titles/{one.pk}")[1] == before
    told = api("put", address, {"chapters": tried["chapters"], "alike": [two.pk]})[1]
    assert told["chapters_by_hand"] is True and [one["name"] for one in told["chapters"]] == ["Ebb", "Flood"]
    read_now_again(source, api)
    other = api("get", f"shelf/titles/{two.pk}")[1]["chapters"]
    assert [chapter["name"] for chapter in other] == ["Ebb", "Flood"]
    given_back = api("put", address, {"chapters": None})[1]
    assert (given_back["chapters"], given_back["chapters_by_hand"]) == (before["chapters"], False)


def test_other_chapters_stand_in_the_strip_and_titles_are_cut_by_them(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS_D2")
    whole = source.titles.get(number=1)
    address = f"shelf/titles/{whole.pk}"
    length_s = whole.duration_s
    three = [{"start_s": length_s * share, "name": ""} for share in (0, 0.25, 0.5)]
    assert api("put", f"{address}/chapters", {"chapters": three, "alike": [source.titles.get(number=101).pk]})[0] == 422
    assert api("put", f"{address}/chapters", {"chapters": three})[0] == 200
    whole.refresh_from_db()
    assert len(whole.outline["chapters"]) == 3
    assert api("put", f"{address}/parts", {"ranges": [{"first": 1, "last": 2}, {"first": 3, "last": 3}]})[0] == 202
    read_now(source.pk)
    parts = source.titles.exclude(number=1)
    assert [part.duration_s for part in parts] == pytest.approx([length_s / 2] * 2, abs=1.0)
    said = api("put", f"{address}/chapters", {"chapters": None})
    assert said[0] == 422 and "cut into titles" in said[1]["message"]


def test_chapters_are_made_at_changes_of_scene(shelf: Shelf, api: Api) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"shelf/titles/{title.pk}/even-chapters?every_s=30"
    assert api("get", address)[1]["looking"] is True
    make_chapters(title.pk, 30)
    made = api("get", address)[1]
    starts = [chapter["start_s"] for chapter in made["chapters"]]
    assert not made["looking"] and starts[0] == 0
    assert all(15 < later - earlier < 45 for earlier, later in itertools.pairwise([*starts, title.duration_s]))
    core = title.core_title()
    nearest = [changes_between(core, start - 8, start + 8) for start in range(30, 30 * len(starts), 30)]
    assert any(nearest)
    for start, mark, found in zip(starts[1:], range(30, 1000, 30), nearest, strict=False):
        assert start == pytest.approx(min(found, key=lambda one: abs(one - mark), default=mark), abs=0.05)
    assert api("get", f"shelf/titles/{title.pk}/even-chapters?every_s=7000")[0] == 422


def test_ranges_of_chapters_become_titles_stay_and_can_be_undone(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS_D2")
    assert [t.number for t in source.titles.all()] == [1, 101, 102, 103, 104]
    whole = source.titles.get(number=1)
    halves = {"ranges": [{"first": 1, "last": 4}, {"first": 5, "last": 8}]}
    assert api("put", f"shelf/titles/{whole.pk}/parts", halves)[0] == 202
    read_now(source.pk)
    read_now_again(source, api)
    titles = list(source.titles.all())
    assert [(t.number, t.role, len(t.outline["chapters"])) for t in titles] == [
        (1, "play_all", 8),
        (101, "episode", 4),
        (102, "episode", 4),
    ]
    assert sum(t.duration_s for t in titles[1:]) == pytest.approx(whole.duration_s, abs=0.1)
    refused = api("put", f"shelf/titles/{whole.pk}/parts", {"ranges": [{"first": 5, "last": 9}]})
    assert (refused[0], refused[1]["code"]) == (422, "no_such_title")
    api("put", f"shelf/titles/{whole.pk}/parts", {"ranges": []})
    read_now(source.pk)
    assert [t.number for t in source.titles.all()] == [1, 101, 102, 103, 104]


def test_a_source_that_moved_keeps_what_was_set_when_it_is_added_again(
    own_media: Path, media: Path, api: Api, db: None
) -> None:
    shutil.copytree(media / "LOCK_KEEPERS", own_media / "LOCK_KEEPERS")
    source = read(own_media / "LOCK_KEEPERS")
    title = source.titles.get(number=2)
    api("patch", f"shelf/titles/{title.pk}", {"name": "The weir"})
    (own_media / "elsewhere").mkdir()
    (own_media / "LOCK_KEEPERS").rename(own_media / "elsewhere" / "KEEPERS")
    moved = read(own_media / "elsewhere" / "KEEPERS")
    assert (Source.objects.count(), moved.pk != source.pk) == (2, True), "another label: another disc"
    (own_media / "elsewhere" / "KEEPERS").rename(own_media / "elsewhere" / "LOCK_KEEPERS")
    again = read(own_media / "elsewhere" / "LOCK_KEEPERS")
    assert again.pk == source.pk
    assert Title.objects.get(pk=title.pk).name == "The weir"


def test_a_source_that_went_away_is_marked_and_found_by_its_name(
    own_media: Path, media: Path, api: Api, db: None
) -> None:
    shutil.copytree(media / "LOCK_KEEPERS", own_media / "LOCK_KEEPERS")
    source = read(own_media / "LOCK_KEEPERS")
    (own_media / "new place").mkdir()
    (own_media / "LOCK_KEEPERS").rename(own_media / "new place" / "LOCK_KEEPERS")
    look_over()
    assert api("get", "shelf/sources")[1][0]["state"] == "missing"
    assert api("post", f"shelf/sources/{source.pk}/find-again")[0] == 202
    read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.path) == ("ready", str(own_media / "new place" / "LOCK_KEEPERS"))
    shutil.rmtree(source.path)
    look_over()
    status, refused = api("post", f"shelf/sources/{source.pk}/find-again")
    assert (status, refused["code"]) == (404, "source_missing")


def test_files_that_changed_are_read_again(own_media: Path, media: Path, db: None) -> None:
    shutil.copytree(media / "Tide Watch", own_media / "Tide Watch")
    source = read(own_media / "Tide Watch")
    look_over()
    source.refresh_from_db()
    assert source.state == "ready"
    name = next(path for path in (own_media / "Tide Watch").iterdir() if path.suffix == ".mp4")
    os.utime(name, (1, 1))
    look_over()
    source.refresh_from_db()
    assert source.state == "waiting"


def test_titles_of_a_folder_keep_their_settings_when_a_file_is_added(
    own_media: Path, media: Path, api: Api, db: None
) -> None:
    shutil.copytree(media / "Tide Watch", own_media / "Tide Watch")
    source = read(own_media / "Tide Watch")
    last = source.titles.get(number=3)
    api("patch", f"shelf/titles/{last.pk}", {"role": "extra"})
    shutil.copy(
        own_media / "Tide Watch" / "Tide Watch S01E02 2.mp4", own_media / "Tide Watch" / "Tide Watch S01E05.mp4"
    )
    read_now_again(source, api)
    last.refresh_from_db()
    assert (last.number, last.role, last.key) == (4, "extra", "Tide Watch S01E10 10.mp4")


def test_a_title_is_looked_at_once_and_the_view_says_what_was_found(shelf: Shelf, api: Api) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"shelf/titles/{title.pk}"
    assert api("get", address)[1]["looked_at"] == "waiting"
    before = snapshot().marks.shelf
    survey_now(title.pk)
    assert snapshot().marks.shelf != before
    document = api("get", address)[1]
    assert document["looked_at"] == "yes"
    facts = {fact["topic"]: fact["text"] for fact in document["picture"]}
    assert facts["Borders"] == "60 above, 60 below: the picture is 720 × 360"
    assert document["borders"]["top"] == 0.125
    assert document["audio"][0]["heard"].startswith("-15 LUFS, peak")
    assert [track["found"] for track in document["subtitles"]] == ["7 lines", "5 lines"]


def test_what_was_found_is_taken_over_for_the_same_material(
    own_media: Path, media: Path, db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("one", "two"):
        shutil.copytree(media / "LOCK_KEEPERS", own_media / name / "LOCK_KEEPERS")
    first, second = (read(own_media / name / "LOCK_KEEPERS").titles.get(number=2) for name in ("one", "two"))
    survey_now(first.pk)
    monkeypatch.setattr("rheon.server.shelf.actions.surveys.survey_title", lambda title: pytest.fail("looked at twice"))
    survey_now(second.pk)
    first.refresh_from_db()
    second.refresh_from_db()
    assert first.survey == second.survey is not None
    assert Finding.objects.count() == 1


def test_a_snippet_plays_with_the_chosen_tracks_in_ranges_and_is_kept(
    shelf: Shelf, client: Any, settings: Any, tmp_path: Path
) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=1)
    address = f"/api/shelf/titles/{title.pk}/snippet.mp4?from=33&audio=1&subtitle=0"
    whole = client.get(address)
    data = b"".join(whole.streaming_content) if not whole.is_async else b""
    made = list((settings.RHEON_CACHE / "snippets").glob("*.mp4"))
    assert len(made) == 1
    assert not data or data == made[0].read_bytes()
    found = probe(str(made[0]))
    assert found.video is not None
    assert (found.video.codec, found.audio[0].codec, found.audio[0].channels) == ("h264", "aac", 2)
    assert found.duration_s == pytest.approx(6, abs=0.5)
    part = client.get(address, headers={"Range": "bytes=0-99"})
    assert (part.status_code, part.headers["Content-Range"].startswith("bytes 0-99/")) == (206, True)
    assert client.get(f"/api/shelf/titles/{title.pk}/snippet.mp4?audio=7").status_code == 404
    assert client.get(f"/api/shelf/titles/{title.pk}/snippet.mp4?from=soon").status_code == 400


def test_the_cache_keeps_to_its_bounds_and_lets_the_longest_unused_go(settings: Any) -> None:
    folder = settings.RHEON_CACHE / "snippets"
    folder.mkdir(parents=True)
    for age, name in ((300, "old"), (200, "middle"), (100, "new")):
        (folder / name).write_bytes(bytes(1000))
        os.utime(folder / name, (time.time() - age,) * 2)
    settings.RHEON_CACHE_BYTES = 2100
    assert clean_up() == 1
    assert sorted(path.name for path in folder.iterdir()) == ["middle", "new"]


def test_strips_moments_and_artwork_are_pictures(shelf: Shelf, client: Any) -> None:
    title = shelf("Tide Watch").titles.get(number=1)
    for path in ("strip/0.jpg", "strip/23.jpg", "moments/2500.jpg", "cover.jpg?own=1"):
        answer = client.get(f"/api/shelf/titles/{title.pk}/{path}")
        assert (answer.status_code, answer.content[:2]) == (200, b"\xff\xd8"), path
    assert client.get(f"/api/shelf/titles/{title.pk}/strip/24.jpg").status_code == 404


def test_another_angle_is_shown_once_it_is_chosen(shelf: Shelf, api: Api) -> None:
    title = shelf("LOCK_KEEPERS").titles.get(number=2)
    assert api("patch", f"shelf/titles/{title.pk}", {"angle": 2})[1]["code"] == "no_such_title"
    document = title.document
    document["angles"] = 2
    document["data"]["other_angles"] = [[{**document["data"]["cells"][0], "duration_s": 3.5}]]
    title.save()
    api("patch", f"shelf/titles/{title.pk}", {"angle": 2})
    title.refresh_from_db()
    assert [cell.duration_s for cell in title.core_title().data.cells] == [3.5]  # type: ignore[union-attr]


@pytest.fixture
def tray(settings: Any, tmp_path: Path, media: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    settings.RHEON_DRIVES = [f"rheon.demo.drive:{tmp_path / 'tray.json'},{media}", str(tmp_path / "no-drive")]
    drives.drives.cache_clear()
    yield tmp_path / "tray.json"
    drives.drives.cache_clear()


def test_a_disc_is_put_in_read_and_taken_out(tray: Path, api: Api, db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    def state() -> Any:
        return api("get", "shelf/drives")[1]

    assert [(drive["state"], drive["name"]) for drive in state()] == [("empty", "Drive")], "the absent one is left out"
    assert api("post", "shelf/drives/0/read")[1]["message"].startswith("There is no disc to read")
    assert "LOCK_KEEPERS" in state()[0]["discs"]
    assert api("put", "shelf/drives/0/tray", {"disc": "LOCK_KEEPERS"})[0] == 204
    assert state()[0]["state"] == "spinning_up"
    now = time.time()
    monkeypatch.setattr("rheon.demo.drive.time.time", lambda: now + SPIN_UP_S + 1)
    assert (state()[0]["state"], state()[0]["label"]) == ("ready", "LOCK_KEEPERS")
    assert api("post", "shelf/drives/0/read")[0] == 202
    source = Source.objects.get()
    read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.drive, source.titles.count()) == ("ready", 0, 5)
    assert state()[0]["source_id"] == source.pk
    assert api("delete", "shelf/drives/0/tray")[0] == 204
    assert state()[0]["state"] == "empty"
    assert api("put", "shelf/drives/0/tray", {"disc": "nothing"})[1]["code"] == "source_unreadable"
    assert api("put", "shelf/drives/1/tray", {"disc": "x"})[1]["message"].startswith(
        "A disc is put into this drive by hand"
    )


def test_a_blank_disc_is_unreadable_and_said_to_be_so(
    tray: Path, api: Api, db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    api("put", "shelf/drives/0/tray", {"disc": BLANK})
    now = time.time()
    monkeypatch.setattr("rheon.demo.drive.time.time", lambda: now + SPIN_UP_S + 1)
    assert api("get", "shelf/drives")[1][0]["state"] == "unreadable"
