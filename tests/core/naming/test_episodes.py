"""Series, seasons and episodes in the names that people give their files."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.naming.episodes import EpisodeName, episode_name, natural_key, tidy_name


@pytest.mark.parametrize(
    ("stem", "folder", "expected"),
    [
        ("Tide Watch S01E02 Slack Water", "", ("Tide Watch", 1, 2, "Slack Water")),
        ("tide.watch.s1e10.1080p.x264", "", ("tide watch", 1, 10, "")),
        ("Tide Watch 2x07 - The Weir", "", ("Tide Watch", 2, 7, "The Weir")),
        ("Tide_Watch_Season 3 Episode 4", "", ("Tide Watch", 3, 4, "")),
        ("Episode 5 (720p)", "Tide Watch Season 2", ("", 2, 5, "")),
        ("Regatta part 2", "", ("Regatta", None, 2, "")),
    ],
)
def test_numbers_of_a_series_are_recognised(stem: str, folder: str, expected: tuple[object, ...]) -> None:
    series, season, episode, title = expected
    wanted = EpisodeName(series=series, season=season, episode=episode, title=title)  # type: ignore[arg-type]
    assert episode_name(stem, folder) == replace(wanted, is_part=" part " in stem)


@pytest.mark.parametrize("stem", ["Kite day", "Harbour 1975", "1080p test", "The 39 Bridges", "2001"])
def test_other_numbers_are_no_episodes(stem: str) -> None:
    assert episode_name(stem) is None


def test_names_are_tidied_for_people() -> None:
    assert tidy_name("The.Last.Ferry.[1080p.x265]") == "The Last Ferry"
    assert tidy_name("launch of the ferry, v1.2") == "launch of the ferry, v1.2"
    assert tidy_name("...") == "..."


@given(st.lists(st.integers(0, 5000), unique=True))
def test_numbers_are_counted_and_not_spelled(numbers: list[int]) -> None:
    names = [f"Part {number}" for number in numbers]
    assert sorted(names, key=natural_key) == [f"Part {number}" for number in sorted(numbers)]
