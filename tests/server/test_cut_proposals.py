"""What could be left out of a title is told in words, and looked for behind everything else."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.test import Client
from tests.instruments.series import Episode, Scene
from tests.instruments.spliced import BLACK, PICTURE, SILENCE, TONE, X264, spliced

from rheon.core.analysis import frame_times
from rheon.server.shelf.actions.frames import scrub_count
from rheon.server.shelf.actions.levels import hear_levels
from rheon.server.shelf.actions.proposing import find_proposals, siblings_of
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.models import Finding, Source, Title

Api = Callable[..., Any]


def taken(path: Path) -> list[Title]:
    source = add_source(str(path))
    read_now(source.pk)
    return list(source.titles.all())


def test_what_is_black_and_silent_is_proposed_and_left_for_a_yes(
    api: Api, settings: Any, tmp_path: Path, db: None
) -> None:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    parts = [(BLACK, SILENCE, 3.0), (PICTURE, TONE, 6.0), (BLACK, SILENCE, 2.0)]
    (title,) = taken(spliced(tmp_path / "film.mkv", parts, X264))
    found = api("get", f"shelf/titles/{title.pk}/proposals")[1]["found"]
    assert [one["text"].rpartition(" ")[0] for one in found] == ["Begin at", "End at"]
    assert (found[0]["until_s"], found[1]["from_s"]) == pytest.approx((3.0, 9.0), abs=0.1)
    assert all("black and silent" in one["reason"] for one in found)
    assert (found[0]["from_s"], found[1]["until_s"]) == (0.0, title.duration_s)


@pytest.fixture
def series(settings: Any, tmp_path: Path, db: None) -> list[Title]:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    settings.RHEON_CACHE = tmp_path / "cache"
    folder = tmp_path / "Harbour Lights"
    folder.mkdir()
    for number in (1, 2):
        scenes = (
            Scene(seconds=6, pictures=("shots", number), sound=("talk", number)),
            Scene(seconds=10, pictures=("shots", 20), sound=("music", 20)),
            Scene(seconds=28, pictures=("shots", 30 + number), sound=("talk", 30 + number)),
        )
        Episode(seed=number, scenes=scenes).make(folder / f"Harbour Lights S1E{number}.mkv")
    return taken(folder)


def proposals(api: Api, title: Title) -> Any:
    return api("get", f"shelf/titles/{title.pk}/proposals")[1]


def test_an_opening_is_looked_for_in_the_background_and_then_proposed(series: list[Title], api: Api) -> None:
    first, second = series
    assert [one.pk for one in siblings_of(first)] == [second.pk]
    assert proposals(api, first) == {"looking": True, "found": [], "other_episodes": 1}
    find_proposals(first.pk)
    said = proposals(api, first)
    (found,) = said["found"]
    assert said["looking"] is False
    assert (found["from_s"], found["until_s"]) == pytest.approx((6.0, 16.0), abs=1.0)
    assert found["text"].startswith("Leave out the opening, 0:0")
    assert found["reason"] == "the same pictures and sound as in another episode"


def test_what_is_proposed_is_left_out_of_a_whole_series_each_where_its_own_proposals_lie(
    series: list[Title], household: list[int], api: Api
) -> None:
    first, second = series
    target = household[0]
    api("get", f"shelf/titles/{first.pk}/proposals")
    find_proposals(first.pk)
    address = f"bench/plans/{first.pk}/{target}/series"
    assert api("post", address)[1] == {"cut": 1, "looking": 1, "nothing": 0, "failed": 0}
    find_proposals(second.pk)
    assert api("post", address)[1] == {"cut": 2, "looking": 0, "nothing": 0, "failed": 0}
    for title in series:
        kept = api("get", f"bench/plans/{title.pk}/{target}")[1]["kept"]
        edges = [moment for one in kept for moment in (one["from_s"], one["until_s"])]
        assert edges == pytest.approx([0, 6, 16, title.duration_s], abs=1.0)
    # what somebody cut stays as it is
    api("patch", f"bench/plans/{second.pk}/{target}", {"pins": {"range.keep": "1-2"}})
    assert api("post", address)[1]["cut"] == 2
    (kept,) = api("get", f"bench/plans/{second.pk}/{target}")[1]["kept"]
    assert (kept["from_s"], kept["until_s"]) == pytest.approx((1, 2), abs=0.1)
    # other devices' files are not touched
    assert api("get", f"bench/plans/{first.pk}/{household[1]}")[1]["kept"] == []


def test_loose_files_named_as_of_one_series_are_siblings(settings: Any, tmp_path: Path, db: None) -> None:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    names = ("Pier S1E1.mkv", "Pier S1E2.mkv", "Quay S1E1.mkv", "A film.mkv")
    one, two, other, film = (taken(spliced(tmp_path / name, [(PICTURE, TONE, 1.0)], X264))[0] for name in names)
    assert siblings_of(one) == [two]
    assert siblings_of(two) == [one]
    assert (siblings_of(other), siblings_of(film)) == ([], [])


def test_what_can_not_be_read_is_not_looked_for_again_and_again(series: list[Title], api: Api) -> None:
    first, second = series
    Path(second.document["data"]["path"]).unlink()
    find_proposals(first.pk)
    assert Finding.objects.get(mark__startswith="proposals-").document == {"failed": True}
    assert proposals(api, first) == {"looking": False, "found": [], "other_episodes": 1}


def test_the_strip_knows_how_loud_it_is_where_scenes_change_and_small_frames(
    shelf: Callable[[str], Source], api: Api, client: Client
) -> None:
    title = shelf("camera/Kite day.mp4").titles.get()
    assert api("get", f"shelf/titles/{title.pk}/levels")[1] == {"levels": [], "looking": True}
    hear_levels(title.pk)
    said = api("get", f"shelf/titles/{title.pk}/levels")[1]
    assert (len(said["levels"]), said["looking"]) == (480, False)
    assert all(-40 < level < 0 for level in said["levels"])
    for asked, wanted in (
        ("at_s=0", 12.0),
        ("at_s=24&before=true", 12.0),
        ("at_s=12", None),
        ("at_s=12&before=true", None),
    ):
        assert api("get", f"shelf/titles/{title.pk}/scene?{asked}")[1] == {"at_s": wanted}
    assert api("get", f"shelf/titles/{title.pk}/scene?at_s=-1")[0] == 400
    small = f"/api/shelf/titles/{title.pk}/scrub"
    assert scrub_count(title.duration_s) == 24
    assert client.get(f"{small}/23.jpg").content[:2] == b"\xff\xd8"
    assert client.get(f"{small}/24.jpg").status_code == 404
    # the strip's own frames are among the small ones of any title
    for duration_s in (24, 100, 5400, 43200):
        of_all = frame_times(duration_s, scrub_count(duration_s))
        assert set(frame_times(duration_s, 24)) <= set(of_all)
