from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.core.media import Source as CoreSource
from rheon.core.sources import read_source
from rheon.server.bench.models import Pick
from rheon.server.live.snapshot import snapshot
from rheon.server.shelf.actions import reading
from rheon.server.shelf.actions.reading import read_now, recover
from rheon.server.shelf.actions.sources import add_source, request_stop
from rheon.server.shelf.models import Source, Title

Api = Callable[..., Any]


def test_a_source_is_read_in_the_background_and_its_film_is_picked(shelf: Callable[[str], Source], api: Api) -> None:
    source = shelf("MARRAM_NIGHTS")
    assert (source.state, source.name, source.titles.count()) == ("ready", "Marram Nights", 6)
    assert [pick.title.number for pick in Pick.objects.all()] == [1]
    status, documents = api("get", "shelf/sources")
    assert status == 200
    first = documents[0]["titles"][0]
    assert (first["name"], first["role"], len(first["chapters"])) == ("Marram Nights", "feature", 6)
    assert first["reason"].startswith("taken for the film: the longest by far")


def test_a_series_image_proposes_its_episodes_with_names(shelf: Callable[[str], Source]) -> None:
    source = shelf("LANTERN_STREET_S1.iso")
    assert [title.name for title in source.titles.all()] == [f"Lantern Street S1, episode {n}" for n in range(1, 5)]
    assert Pick.objects.count() == 4


def test_a_title_opens_with_its_tracks_and_frames(shelf: Callable[[str], Source], api: Api, client: Any) -> None:
    title = shelf("MARRAM_NIGHTS").titles.get(number=1)
    status, document = api("get", f"shelf/titles/{title.pk}")
    assert status == 200
    assert [track["language"] for track in document["audio"]] == ["English", "Spanish"]
    frames = [client.get(f"/api/shelf/titles/{title.pk}/frames/{n}.jpg") for n in (0, 5, 6)]
    assert [frame.status_code for frame in frames] == [200, 200, 404]
    assert frames[0].content.startswith(b"\xff\xd8")
    assert frames[0].content != frames[1].content


def test_picks_made_by_hand_stay_when_a_source_is_read_again(shelf: Callable[[str], Source], api: Api) -> None:
    source = shelf("MARRAM_NIGHTS")
    film, extra = source.titles.get(number=1), source.titles.get(number=2)
    api("post", "bench/picks", {"title_ids": [film.pk], "picked": False})
    api("post", "bench/picks", {"title_ids": [extra.pk], "picked": True})
    assert api("post", f"shelf/sources/{source.pk}/read-again")[0] == 202
    read_now(source.pk)
    assert api("get", "bench/picks") == (200, {"title_ids": [extra.pk]})


def test_what_can_t_be_read_fails_with_a_sentence_and_can_be_read_again(
    api: Api, settings: Any, tmp_path: Path, db: None
) -> None:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    broken = tmp_path / "notes.mkv"
    broken.write_text("not a film")
    assert api("post", "shelf/sources", {"path": str(broken)})[0] == 202
    source = Source.objects.get()
    read_now(source.pk)
    document = api("get", "shelf/sources")[1][0]
    assert (document["state"], document["error_code"]) == ("failed", "not_a_source")
    assert document["error_message"].endswith(
        "Choose a disc folder (VIDEO_TS or BDMV), a disc image, or video or sound files."
    )


def test_reading_is_stopped_while_it_waits_and_while_it_runs(
    media: Path, db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    source = add_source(str(media / "MARRAM_NIGHTS"))
    request_stop(source)
    read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.titles.count()) == ("stopped", 0)
    Source.objects.update(state="waiting", stop_requested=True)
    read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.titles.count()) == ("stopped", 0)


def test_a_source_that_is_taken_off_while_it_is_read_stays_off(
    media: Path, db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    source = add_source(str(media / "MARRAM_NIGHTS"))

    def read_and_removed(*said: object) -> CoreSource:
        found = read_source(*said)  # type: ignore[arg-type]
        Source.objects.all().delete()
        return found

    monkeypatch.setattr(reading, "read_source", read_and_removed)
    read_now(source.pk)
    assert not Source.objects.exists()


def test_a_scan_whose_worker_is_gone_waits_again(media: Path, db: None) -> None:
    gone = add_source(str(media / "MARRAM_NIGHTS"))
    stopped = add_source(str(media / "LANTERN_STREET_S1.iso"))
    Source.objects.filter(pk=gone.pk).update(state="reading", worker="999999999:1")
    Source.objects.filter(pk=stopped.pk).update(state="reading", worker="999999999:1", stop_requested=True)
    assert recover() == 2
    assert list(Source.objects.order_by("pk").values_list("state", flat=True)) == ["waiting", "stopped"]


def test_only_media_folders_are_listed_and_links_do_not_lead_out(
    api: Api, settings: Any, tmp_path: Path, db: None
) -> None:
    root = tmp_path / "media"
    (root / "films" / "DISC" / "VIDEO_TS").mkdir(parents=True)
    (root / "films" / "a.mkv").write_bytes(b"x" * 10)
    (root / "films" / "notes.txt").write_text("private")
    (root / "way-out").symlink_to("/etc")
    settings.RHEON_MEDIA_FOLDERS = [root]
    status, top = api("get", "shelf/folders")
    assert (status, top["parent"], [e["name"] for e in top["entries"]]) == (200, None, ["films"])
    inside = api("get", f"shelf/folders?path={root}/films")[1]["entries"]
    assert [(entry["name"], entry["kind"]) for entry in inside] == [("DISC", "disc"), ("a.mkv", "file")]
    for path in ("/etc", f"{root}/way-out", f"{root}/../../etc", "/"):
        assert api("get", f"shelf/folders?path={path}")[0] == 403
        assert api("post", "shelf/sources", {"path": path})[1]["code"] == "outside_folders"


def test_a_disc_folder_whose_files_are_links_to_elsewhere_is_refused(settings: Any, tmp_path: Path, db: None) -> None:
    disc = tmp_path / "media" / "DISC" / "VIDEO_TS"
    disc.mkdir(parents=True)
    (disc / "VIDEO_TS.IFO").symlink_to("/etc/passwd")
    settings.RHEON_MEDIA_FOLDERS = [tmp_path / "media"]
    source = add_source(str(disc.parent))
    read_now(source.pk)
    source.refresh_from_db()
    assert (source.state, source.error_code) == ("failed", "outside_folders")


def test_reading_again_with_the_same_end_is_noticed_by_open_pages(
    api: Api, settings: Any, tmp_path: Path, db: None
) -> None:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    (tmp_path / "notes.mkv").write_text("not a film")
    source = add_source(str(tmp_path / "notes.mkv"))
    read_now(source.pk)
    before = snapshot().marks.shelf
    api("post", f"shelf/sources/{source.pk}/read-again")
    read_now(source.pk)
    assert snapshot().marks.shelf != before


def test_removing_a_source_leaves_its_files(shelf: Callable[[str], Source], api: Api, media: Path) -> None:
    source = shelf("MARRAM_NIGHTS")
    assert api("delete", f"shelf/sources/{source.pk}")[0] == 204
    assert (Source.objects.count(), Title.objects.count()) == (0, 0)
    assert (media / "MARRAM_NIGHTS" / "VIDEO_TS" / "VTS_01_1.VOB").exists()


def test_problems_are_told_in_sentences_also_those_that_an_older_rheon_stored(
    shelf: Callable[[str], Source], api: Any
) -> None:
    source = shelf("camera/Kite day.mp4")
    reason = {"code": "scrambled", "values": {"title": 1}}
    source.problems = [
        {"code": "scrambled", "reason": reason, "title": 1},
        {"code": "cut_off", "message": "Its end is missing.", "title": None},
    ]
    source.save()
    said = [problem["message"] for problem in api("get", "shelf/sources")[1][0]["problems"]]
    assert said[0].startswith("Title 1 can't be converted: its data is scrambled.")
    assert said[1] == "Its end is missing."
