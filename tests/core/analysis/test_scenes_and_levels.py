"""Changes of scene are found to the picture, in either direction, and what is loud and what silent lies where it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import pytest
from tests.instruments.engine import output_of
from tests.instruments.spliced import MPEG2, PICTURE, SILENCE, TONE, X264, spliced

from rheon.core.analysis import levels, levels_of, scene_after, scene_before
from rheon.core.media import Title
from rheon.core.media.kept import first_picture_s
from rheon.core.sources import read_source

BARS, FRACTAL = "smptebars=s=320x180:r=25", "mandelbrot=s=320x180:r=25:start_scale=0.3"
PARTS = [(PICTURE, TONE, 5.0), (FRACTAL, SILENCE, 4.04), (BARS, TONE, 26.0), (PICTURE, TONE, 1.0)]
CUTS = [5.0, 9.04, 35.04]
ON_PICTURE_S = 0.015


def steps(title: Title, begin_s: float, *, back: bool = False) -> list[float]:
    found: list[float] = []
    at: float | None = begin_s
    while at is not None and len(found) < 10:
        at = scene_before(title, at) if back else scene_after(title, at)
        found += [] if at is None else [at]
    return found


@pytest.fixture(scope="module", params=[("mkv", X264), ("mp4", X264), ("ts", MPEG2)], ids=lambda one: one[0])
def title(request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory) -> Title:
    suffix, coding = request.param
    path = tmp_path_factory.mktemp("scenes") / f"film.{suffix}"
    return read_source(spliced(path, PARTS, coding)).titles[0]


def test_one_goes_from_scene_to_scene_and_back(title: Title) -> None:
    cuts = [first_picture_s(title) + cut for cut in CUTS]
    assert steps(title, 0.0) == pytest.approx(cuts, abs=ON_PICTURE_S)
    assert steps(title, title.duration_s, back=True) == pytest.approx(cuts[::-1], abs=ON_PICTURE_S)


def test_levels_say_where_it_is_silent(title: Title) -> None:
    heard = levels_of(title)
    step_s = title.duration_s / len(heard)
    assert len(heard) == 480

    def within(from_s: float, until_s: float) -> Sequence[int]:
        return heard[round((from_s + 0.2) / step_s) : round((until_s - 0.2) / step_s)]

    assert all(level > -30 for level in (*within(0, 5), *within(9.04, 36)))
    assert all(level < -60 for level in within(5, 9.04))


@pytest.mark.parametrize("title", [("mkv", X264)], indirect=True)
def test_of_a_very_large_title_moments_are_heard(title: Title, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(levels, "SAMPLES", 40)
    some = levels_of(replace(title, size_bytes=50 << 30))
    assert len(some) == 40
    assert all((level < -60) == (5 < (n + 0.5) * 36.04 / 40 < 8.5) for n, level in enumerate(some) if n != 9)


def test_what_has_no_sound_has_no_levels_and_what_has_no_pictures_no_scenes(tmp_path: Path) -> None:
    for name, source in (("silent.mkv", PICTURE), ("sound.flac", TONE)):
        output_of(["ffmpeg", "-v", "error", "-f", "lavfi", "-t", "3", "-i", source, str(tmp_path / name)])
    silent, sound = (read_source(tmp_path / name).titles[0] for name in ("silent.mkv", "sound.flac"))
    assert levels_of(silent) == []
    assert scene_after(sound, 0.0) is None
    assert len(levels_of(sound)) == 60
