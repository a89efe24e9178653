"""What is black and silent at a title's ends is found, and no programme is taken for it."""

from __future__ import annotations

from pathlib import Path

import pytest
from tests.instruments.engine import output_of
from tests.instruments.spliced import BLACK, MPEG2, PICTURE, SILENCE, TONE, X264, spliced
from tests.thorough import thorough

from rheon.core.analysis.proposals import Leaders, find_leaders
from rheon.core.sources import read_source

WITHIN_S = 0.1


@pytest.mark.parametrize(("suffix", "coding"), [thorough("mkv", X264), thorough("mp4", X264), ("ts", MPEG2)])
@pytest.mark.parametrize(
    ("parts", "wanted"),
    [
        ([(BLACK, SILENCE, 3.2), (PICTURE, TONE, 8), (BLACK, SILENCE, 2.4)], (3.2, 11.2)),
        # a black picture with an overture, a picture without sound, and too short a black are programme
        ([(BLACK, TONE, 4), (PICTURE, SILENCE, 6), (BLACK, SILENCE, 0.5)], (None, None)),
        ([(PICTURE, TONE, 5), (BLACK, SILENCE, 3), (PICTURE, TONE, 5)], (None, None)),
        # only what is both counts
        ([(BLACK, SILENCE, 2), (BLACK, TONE, 2), (PICTURE, TONE, 40), (PICTURE, SILENCE, 2), (BLACK, SILENCE, 5)],
         (2.0, 46.0)),
    ],
)  # fmt: skip
def test_black_and_silence_at_the_ends_are_found_and_nothing_else(
    suffix: str,
    coding: tuple[str, ...],
    parts: list[tuple[str, str, float]],
    wanted: tuple[float | None, float | None],
    tmp_path: Path,
) -> None:
    title = read_source(spliced(tmp_path / f"film.{suffix}", parts, coding)).titles[0]
    found = find_leaders(title)
    assert (found.begins_s is None, found.ends_s is None) == (wanted[0] is None, wanted[1] is None)
    for seen, truth in ((found.begins_s, wanted[0]), (found.ends_s, wanted[1])):
        assert seen is None or truth is None or abs(seen - truth) <= WITHIN_S


def test_a_title_without_pictures_has_no_leaders(tmp_path: Path) -> None:
    path = tmp_path / "sound.flac"
    output_of(["ffmpeg", "-v", "error", "-f", "lavfi", "-t", "3", "-i", SILENCE, str(path)])
    assert find_leaders(read_source(path).titles[0]) == Leaders()
