"""What names of discs, folders and files say, held against what whoever wrote them meant."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.naming.labels import OLDEST_YEAR, NameParts, is_meaningless, read_name

MEANT = {
    # labels of discs
    "MARRAM_NIGHTS": NameParts(title="Marram Nights"),
    "MARRAM_NIGHTS_D1": NameParts(title="Marram Nights", disc=1),
    "MARRAM_NIGHTS_DISC_2": NameParts(title="Marram Nights", disc=2),
    "MARRAM_NIGHTS_16X9": NameParts(title="Marram Nights"),
    "MARRAM_NIGHTS_PAL_WS": NameParts(title="Marram Nights"),
    "MARRAM_NIGHTS_DVD": NameParts(title="Marram Nights"),
    "MARRAM_NIGHTS_BLURAY": NameParts(title="Marram Nights"),
    "MARRAM_NIGHTS_1994": NameParts(title="Marram Nights", year=1994),
    "MARRAM_NIGHTS_DIRECTORS_CUT": NameParts(title="Marram Nights", edition="director's cut"),
    "THE_LAST_FERRY_EXTENDED": NameParts(title="The Last Ferry", edition="extended"),
    "THE_LAST_FERRY_UNRATED": NameParts(title="The Last Ferry", edition="uncut"),
    "LANTERN_STREET_S1": NameParts(title="Lantern Street", season=1),
    "LANTERN_STREET_S01_D02": NameParts(title="Lantern Street", season=1, disc=2),
    "LANTERN_STREET_S1D2": NameParts(title="Lantern Street", season=1, disc=2),
    "LANTERN_STREET_SEASON_2_DISC_3": NameParts(title="Lantern Street", season=2, disc=3),
    "LANTERN_STREET_SERIES_3": NameParts(title="Lantern Street", season=3),
    "LOCK_KEEPERS_D2": NameParts(title="Lock Keepers", disc=2),
    "LOCK_KEEPERS_VOL_4": NameParts(title="Lock Keepers Vol 4"),
    "THE_39_BRIDGES": NameParts(title="The 39 Bridges"),
    "HERON_REACH": NameParts(title="Heron Reach"),
    "SALT_ROAD_UK": NameParts(title="Salt Road Uk"),
    "2001": NameParts(title="2001"),
    "HARBOUR_1975": NameParts(title="Harbour", year=1975),
    "TIDE_WATCH_PART_2": NameParts(title="Tide Watch", part=2),
    "SEASON": NameParts(title="Season"),
    "THE_DISC": NameParts(title="The Disc"),
    # folders and files as people call them
    "Marram Nights (1994)": NameParts(title="Marram Nights", year=1994),
    "Marram Nights [1994]": NameParts(title="Marram Nights", year=1994),
    "Marram.Nights.1994.1080p.BluRay.x264": NameParts(title="Marram Nights", year=1994),
    "marram_nights_1994_dvdrip": NameParts(title="marram nights", year=1994),
    "Marram Nights (1994) (Director's Cut)": NameParts(title="Marram Nights", year=1994, edition="director's cut"),
    "Marram Nights - Extended Edition (1994)": NameParts(title="Marram Nights", year=1994, edition="extended"),
    "Marram Nights (1994) [Restored]": NameParts(title="Marram Nights", year=1994, edition="restored"),
    "Marram.Nights.GERMAN.1994.720p": NameParts(title="Marram Nights", year=1994),
    "Marram Nights (German)": NameParts(title="Marram Nights"),
    "The Last Ferry CD2": NameParts(title="The Last Ferry", disc=2),
    "The Last Ferry - Part One": NameParts(title="The Last Ferry", part=1),
    "The Last Ferry, part 2": NameParts(title="The Last Ferry", part=2),
    "1917 Winter Harbour (2004)": NameParts(title="1917 Winter Harbour", year=2004),
    "Summer of 1962 (1988)": NameParts(title="Summer of 1962", year=1988),
    "Kite day": NameParts(title="Kite day"),
    "Regatta, two languages": NameParts(title="Regatta, two languages"),
    "launch of the ferry": NameParts(title="launch of the ferry"),
    "Élan sur l'estuaire (1961)": NameParts(title="Élan sur l'estuaire", year=1961),
    "Der Fährmann - 1999": NameParts(title="Der Fährmann", year=1999),
    "河口の夜 (2003)": NameParts(title="河口の夜", year=2003),
    "The.Last.Ferry.2003.Remastered.1080p": NameParts(title="The Last Ferry", year=2003, edition="restored"),
    "The Last Ferry 4K": NameParts(title="The Last Ferry"),
    "The Last Ferry UHD 2160p HDR10": NameParts(title="The Last Ferry"),
    # episodes
    "Tide Watch S01E02": NameParts(title="Tide Watch", season=1, episode=2),
    "Tide.Watch.S01E02.Slack.Water.720p.HDTV.x264": NameParts(
        title="Tide Watch", season=1, episode=2, episode_title="Slack Water"
    ),
    "Tide Watch - S01E02 - Slack Water": NameParts(
        title="Tide Watch", season=1, episode=2, episode_title="Slack Water"
    ),
    "Tide Watch 1x02 Slack Water": NameParts(title="Tide Watch", season=1, episode=2, episode_title="Slack Water"),
    "tide_watch_s1e10": NameParts(title="tide watch", season=1, episode=10),
    "Tide Watch (2011) - S02E11 - The Weir": NameParts(
        title="Tide Watch", year=2011, season=2, episode=11, episode_title="The Weir"
    ),
    "Tide Watch Season 3 Episode 4": NameParts(title="Tide Watch", season=3, episode=4),
    "TIDE_WATCH_S02E03": NameParts(title="Tide Watch", season=2, episode=3),
    "S01E05 - Neaps": NameParts(season=1, episode=5, episode_title="Neaps"),
    "Tide Watch S01 E07 [1080p]": NameParts(title="Tide Watch", season=1, episode=7),
    "Tide Watch - Season 1": NameParts(title="Tide Watch", season=1),
    "Season 02": NameParts(season=2),
    "Staffel 2": NameParts(season=2),
    "Tide Watch Saison 2": NameParts(title="Tide Watch", season=2),
}


WHOLE = (
    "My Pal", "Creature Feature", "A Proper Man", "Uncut Stones", "The Uncut Stone", "Extended Family", "Life Restored",
    "Harbour 2049", "No Lo Se", "Harbour Tales Vol. 2", "The Dual", "Multi", "Season of Fog", "Room 237", "Catch 22",
    "Area 51", "300", "1984", "Room 1954 Revisited", "The Good German", "Speaking French", "The Complete Fool",
    "A Web of Tides", "Two Part Harmony", "The (Other) Shore", "Fog, Part and Parcel", "Ten by 9", "The Main Sluice",
    "Bonus", "Disc Jockey", "E", "S", "Episode", "Nightwatch Title", "Four Seasons", "Half an Hour Uncut and Alive",
)  # fmt: skip
"""Titles of which every word is one of the title, though some look like marks."""


@pytest.mark.parametrize("title", WHOLE)
def test_a_word_of_a_title_is_left_in_it(title: str) -> None:
    assert read_name(title) == NameParts(title=title)
    label = re.sub(r"\W+", "_", title).strip("_").upper()
    assert read_name(label).title.casefold() == re.sub(r"\W+", " ", title).strip().casefold()


@pytest.mark.parametrize("name", MEANT)
def test_a_name_is_read_as_it_was_meant(name: str) -> None:
    assert read_name(name) == MEANT[name]


@pytest.mark.parametrize(
    "name", ["DVD_VIDEO", "DVDVOLUME", "VIDEO_TS", "BDMV", "UNTITLED", "DISC1", "", "NEW", "My DVD", "title 01", "BD"]
)
def test_names_that_programs_give_say_nothing(name: str) -> None:
    assert is_meaningless(name)


@pytest.mark.parametrize("name", ["MARRAM_NIGHTS", "Discworks", "The Title", "2001", "Movie Night at the Quay"])
def test_names_that_people_give_are_kept(name: str) -> None:
    assert not is_meaningless(name)


@given(st.text(max_size=80))
def test_whatever_a_name_is_something_is_said_of_it(name: str) -> None:
    said = read_name(name)
    assert said.title == said.title.strip() and (said.year is None or said.year >= OLDEST_YEAR)
    if any(letter.isalpha() for letter in name):
        assert said != NameParts()
