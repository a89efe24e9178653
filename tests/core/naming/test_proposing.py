"""What sources are taken for: discs by label and folder, files by their names and what is written in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

import pytest

from rheon.core.media import (
    PAL,
    AudioStream,
    Chapter,
    ContentKind,
    FileData,
    ProposedTags,
    Role,
    Source,
    SourceForm,
    SourceKind,
    Tags,
    Title,
    VideoStream,
)
from rheon.core.naming.proposing import joined_tags, propose, season_disc, set_by_hand
from rheon.core.naming.sureness import SURE_FROM
from rheon.core.wording import sentence

VIDEO = VideoStream(codec="h264", width=640, height=360, frame_rate=PAL, sample_aspect=Fraction(1))
FILM, EPISODE, EXTRA, ALL = Role.FEATURE, Role.EPISODE, Role.EXTRA, Role.PLAY_ALL


def title(
    number: int, role: Role = FILM, path: str = "", tags: dict[str, str] | None = None, *, sound: bool = False
) -> Title:
    return Title(
        number=number, role=role, duration_s=60, size_bytes=1, data=FileData(path=path), container="mp4",
        video=None if sound else VIDEO, tags=tags or {}, chapters=(Chapter(number=1, start_s=0),),
        audio=(AudioStream(index=0, codec="aac", channels=2, sample_rate=48000),),
    )  # fmt: skip


def disc(label: str, path: str, roles: Sequence[Role] = (FILM,)) -> Source:
    return Source(
        kind=SourceKind.DVD, form=SourceForm.FOLDER, label=label, path=path, size_bytes=1,
        titles=tuple(title(number, role) for number, role in enumerate(roles, start=1)),
    )  # fmt: skip


def files(*titles: Title, path: str = "/films") -> Source:
    return Source(kind=SourceKind.FILES, form=SourceForm.FOLDER, label="films", path=path, size_bytes=1, titles=titles)


def doubtful(found: ProposedTags) -> set[str]:
    return {name for name, one in found.found.items() if one.sure < SURE_FROM}


@pytest.mark.parametrize(
    ("label", "path", "wanted", "doubt"),
    [
        ("MARRAM_NIGHTS", "/r/MARRAM_NIGHTS", Tags(title="Marram Nights"), set()),
        ("MARRAM_NIGHTS", "/r/MARRAM_NIGHTS/VIDEO_TS", Tags(title="Marram Nights"), set()),
        ("MARRAM_NIGHTS", "/r/Marram Nights (1994)", Tags(title="Marram Nights", year=1994), set()),
        ("MARRAM_NIGHTS_1994", "/r/disc one", Tags(title="Marram Nights", year=1994), set()),
        ("DVD_VIDEO", "/r/Marram Nights (1994).iso", Tags(title="Marram Nights", year=1994), set()),
        ("DVD_VIDEO", "/r/marram_nights.iso", Tags(title="marram nights"), set()),
        ("MARRAMNTS", "/r/Marram Nights, director's cut", Tags(title="Marram Nights", edition="director's cut"), set()),
        ("DVD_VIDEO", "/r/VIDEO_TS", Tags(title="r"), set()),
        ("DVD_VIDEO", "/VIDEO_TS", Tags(title="Video Ts"), {"title"}),
        ("", "/r/BDMV", Tags(title="r"), set()),
        ("SALT_ROAD", "/r/2001", Tags(title="Salt Road"), set()),
    ],
)
def test_a_film_is_called_by_whoever_has_called_it(label: str, path: str, wanted: Tags, doubt: set[str]) -> None:
    (found,) = propose(disc(label, path)).values()
    assert found.tags == wanted and doubtful(found) == doubt
    assert all(sentence(one.reason) for one in found.found.values())


def test_episodes_are_counted_on_their_disc_and_over_the_discs_before_it() -> None:
    roles = [ALL, EPISODE, EPISODE, EXTRA, EPISODE]
    first = propose(disc("LOCK_KEEPERS_S2", "/r/LOCK_KEEPERS_S2", roles))
    assert [found.tags.numbered for found in first.values()] == ["", "S02E01", "S02E02", "", "S02E03"]
    assert {found.tags.show for found in first.values()} == {"Lock Keepers"}
    assert first[1].tags.kind is first[4].tags.kind is ContentKind.EXTRA and not doubtful(first[2])
    second = disc("LOCK_KEEPERS_S2_D2", "/r/LOCK_KEEPERS_S2_D2", roles)
    assert season_disc(second) == ("lock keepers", 2, 2) and season_disc(disc("X", "/r/X")) is None
    alone, after = propose(second), propose(second, 3)
    assert (alone[2].tags.numbered, doubtful(alone[2])) == ("S02E01", {"episode"})
    assert (after[5].tags.numbered, doubtful(after[5])) == ("S02E06", set())


def test_a_volume_is_a_disc_of_a_series_and_a_word_of_a_film_s_title() -> None:
    series = disc("LOCK_KEEPERS_VOL_3", "/r/LOCK_KEEPERS_VOL_3", [EPISODE])
    assert season_disc(series) == ("lock keepers", 1, 3) and propose(series)[1].tags.show == "Lock Keepers"
    assert propose(disc("TIDES_VOL_3", "/r/TIDES_VOL_3"))[1].tags.title == "Tides Vol 3"


def test_a_season_that_no_name_tells_is_a_doubt() -> None:
    found = propose(disc("LOCK_KEEPERS", "/r/LOCK_KEEPERS", [EPISODE]))[1]
    assert (found.tags.numbered, doubtful(found)) == ("S01E01", {"season"})


def test_another_film_of_a_disc_is_a_doubt_and_its_extras_are_counted() -> None:
    found = propose(disc("HERON_REACH", "/r/HERON_REACH", [FILM, FILM, EXTRA, EXTRA]))
    assert [doubtful(one) for one in found.values()] == [set(), {"title"}, set(), set()]
    assert [one.tags.title for one in found.values()][2:] == ["Heron Reach, extra 1", "Heron Reach, extra 2"]


SERIES = Tags(kind=ContentKind.EPISODE, show="Tide Watch", season=1, episode=2, title="Slack Water")


@pytest.mark.parametrize(
    ("path", "wanted"),
    [
        ("/films/Tide Watch/Season 01/Tide Watch - S01E02 - Slack Water.mkv", SERIES),
        ("/films/Tide Watch/Season 1/02 - Slack Water.mkv", SERIES),
        ("/films/Tide Watch/Season 1/02.mkv", replace(SERIES, title="")),
        ("/films/Tide Watch Season 1/E02 Slack Water.mkv", SERIES),
        ("/films/Tide Watch/S01E02.mkv", replace(SERIES, title="")),
        ("/films/Tide.Watch.S01E02.Slack.Water.1080p.mkv", SERIES),
        ("/films/Tide Watch/Episode 2 - Slack Water.mp4", SERIES),
        ("/films/Tide Watch S01E02 2.mp4", replace(SERIES, title="")),
        ("/films/Marram Nights (1994)/Marram Nights (1994).mkv", Tags(title="Marram Nights", year=1994)),
        ("/films/Marram.Nights.1994.Extended.720p.mkv", Tags(title="Marram Nights", year=1994, edition="extended")),
        ("/films/Regatta part 2.mp4", Tags(title="Regatta", part=2)),
        ("/films/Marram Nights/Extras/The boats.mkv", Tags(kind=ContentKind.EXTRA, title="The boats")),
        ("/films/2001.mkv", Tags(title="2001")),
        ("/films/Kite day.mp4", Tags(title="Kite day")),
    ],
)
def test_a_file_is_what_its_name_and_its_folders_say(path: str, wanted: Tags) -> None:
    assert propose(files(title(1, path=path)))[1].tags == wanted


def test_what_is_written_in_a_file_counts_before_its_name_unless_a_program_wrote_it() -> None:
    written = {"title": "Marram Nights", "date": "1994-05-02", "genre": "Drama"}
    assert propose(files(title(1, path="/f/mn.mkv", tags=written)))[1].tags == Tags(
        title="Marram Nights", year=1994, genre="Drama"
    )
    for junk in ("mn_final_v2", "www.example.org", "Title 01", "Kite day"):
        assert propose(files(title(1, path="/f/Kite day.mkv", tags={"title": junk})))[1].tags.title == "Kite day"
    song = title(1, path="/m/03 - Neaps.flac", tags={"artist": "The Sluices", "date": "0"}, sound=True)
    assert propose(files(song))[1].tags == Tags(kind=ContentKind.SOUND, title="Neaps", artist="The Sluices")
    song = title(1, path="/m/The Sluices - Neaps.mp3", sound=True)
    assert propose(files(song))[1].tags == Tags(kind=ContentKind.SOUND, title="Neaps", artist="The Sluices")


def test_what_was_set_by_hand_comes_first_and_may_be_nothing() -> None:
    found = propose(files(title(1, path="/f/Marram Nights (1994).mkv")))[1]
    assert set_by_hand({"title": "The Marsh", "year": ""}).over(found).tags == Tags(title="The Marsh")


def test_a_join_keeps_what_its_parts_have_alike() -> None:
    found = propose(disc("LOCK_KEEPERS_S2", "/r/x", [EPISODE, EPISODE]))
    said = joined_tags("Lock Keepers", list(found.values())).tags
    assert (said.title, said.show, said.season, said.episode) == ("Lock Keepers", "Lock Keepers", 2, None)
