"""Documents about a work that lie beside its file."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.instruments.authored import Pictures, plain
from tests.instruments.sources import AAC, H264

from rheon.core.media import Source
from rheon.core.naming.proposing import propose
from rheon.core.naming.sidecars import read_facts
from rheon.core.sources import read_source

FILM = """<?xml version="1.0" encoding="UTF-8" standalone="yes"?>
<movie><title>Marram &amp; Nights</title><year>1994</year><genre>Drama</genre><genre>Sea</genre><genre>Drama</genre>
<director>Wim Holt</director><actor><name>Ada Fenn</name><role>Keeper</role></actor><actor><name>Jo Stilt</name></actor>
<plot>A keeper
waits.</plot><season></season></movie>"""
EPISODE = """<episodedetails><title>Slack Water</title><showtitle>Tide Watch</showtitle><season>1</season>
<episode>02</episode><aired>2011-03-04</aired></episodedetails>"""


def test_xml_of_a_film_and_of_an_episode() -> None:
    assert read_facts(FILM) == {
        "kind": "film", "title": "Marram & Nights", "year": 1994, "genre": "Drama, Sea", "director": "Wim Holt",
        "cast": "Ada Fenn, Jo Stilt", "description": "A keeper\nwaits.",
    }  # fmt: skip
    assert read_facts("\ufeff" + EPISODE) == {
        "kind": "episode", "title": "Slack Water", "show": "Tide Watch", "season": 1, "episode": 2, "year": 2011,
    }  # fmt: skip
    assert read_facts("<tvshow><title>Tide Watch</title><genre>Sea</genre><year>2010</year></tvshow>") == {
        "show": "Tide Watch", "genre": "Sea",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ({"title": "Low", "release_date": "19940301", "cast": [{"name": "Ada"}, "Jo"]},
         {"title": "Low", "year": 1994, "cast": "Ada, Jo"}),
        ({"name": "Low", "season_number": 2, "episode_number": "7", "series": "Tide", "kind": "episode"},
         {"title": "Low", "season": 2, "episode": 7, "show": "Tide", "kind": "episode"}),
        ({"kind": "opera", "year": "soon", "season": -1, "title": ["", " x "]}, {"title": "x"}),
        ({"title": "é" * 300}, {"title": "é" * 126 + "…"}),
        ({"format": 1}, None),
    ],
)  # fmt: skip
def test_json_by_the_keys_in_use(said: dict[str, object], told: dict[str, object] | None) -> None:
    assert read_facts(json.dumps(said)) == told


@given(st.one_of(st.text(max_size=80), st.recursive(
    st.none() | st.booleans() | st.floats() | st.text(max_size=9),
    lambda inner: st.lists(inner) | st.dictionaries(st.sampled_from(["title", "cast", "year", "name"]), inner),
).map(json.dumps)))  # fmt: skip
def test_whatever_lies_there_is_facts_or_nothing(text: str) -> None:
    told = read_facts(text)
    assert told is None or all(value != "" for value in told.values())


def test_what_can_t_be_trusted_is_no_document() -> None:
    assert read_facts('<!DOCTYPE movie [<!ENTITY a "b">]><movie><title>&a;</title></movie>') is None
    assert read_facts("<movie><title>x") is None and read_facts("[" * 100_000) is None


def test_a_file_is_called_by_what_lies_beside_it_and_its_chapters_are_those_of_the_list(tmp_path: Path) -> None:
    season = tmp_path / "Tide" / "Season 1"
    season.mkdir(parents=True)
    plain(season / "e02.mp4", Pictures(count=150, rate=Fraction(25), size=(160, 120)), (*H264, *AAC))
    (season / "e02.nfo").write_text(EPISODE)
    (season / "e02.json").write_text('{"title": "less sure", "comment": "kept"}')
    (season.parent / "tvshow.nfo").write_text("<tvshow><title>other</title><genre>Sea</genre></tvshow>")
    (season / "e02.chapters.txt").write_text("0:00 Ebb\n0:03 Flood\n9:00 Spring\n")
    found: Source = read_source(season / "e02.mp4")
    tags = propose(found)[1].tags
    assert (tags.numbered, tags.title, tags.show, tags.genre, tags.comment, tags.year) == (
        "S01E02", "Slack Water", "Tide Watch", "Sea", "kept", 2011,
    )  # fmt: skip
    assert [(one.start_s, one.name) for one in found.titles[0].chapters] == [(0, "Ebb"), (3, "Flood")]
    assert [problem.code for problem in found.problems] == ["bad_chapters"]
    (season / "e02.chapters.txt").write_text("5:00 Later\n")
    assert [problem.code for problem in read_source(season / "e02.mp4").problems] == ["bad_chapters"]
    (season / "e02.chapters.txt").write_bytes(b"\xff\xfe")
    broken = read_source(season / "e02.mp4")
    assert not broken.titles[0].chapters and [problem.code for problem in broken.problems] == ["bad_chapters"]
