"""Which bytes are read to look at a moment of a title."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.analysis import frame_jpeg, frame_times, sample_pictures
from rheon.core.analysis.excerpts import EXCERPT_BYTES, _pieces
from rheon.core.errors import EngineError
from rheon.core.media import Cell, Extent, FileData, Source, Title
from rheon.core.sources import read_source

SECTOR = 2048


@st.composite
def cells(draw: st.DrawFn) -> tuple[Cell, ...]:
    made, start, at = [], 0.0, 0
    for _ in range(draw(st.integers(1, 5))):
        seconds = draw(st.floats(0.0, 600, allow_nan=False))
        lengths = draw(st.lists(st.integers(1, 4000), min_size=1, max_size=3))
        extents = []
        for sectors in lengths:
            extents.append(Extent(path="v", offset_bytes=at * SECTOR, length_bytes=sectors * SECTOR))
            at += sectors
        made.append(Cell(start_s=start, duration_s=seconds, extents=tuple(extents)))
        start += seconds
    return tuple(made)


@given(cells(), st.floats(0, 4000, allow_nan=False))
def test_an_excerpt_is_whole_sectors_of_the_title_and_bounded(made: tuple[Cell, ...], at_s: float) -> None:
    found = [extent for _, extent in _pieces(made, at_s)]
    assert sum(extent.length_bytes for extent in found) <= EXCERPT_BYTES
    end = max(extent.offset_bytes + extent.length_bytes for cell in made for extent in cell.extents)
    for extent in found:
        assert extent.offset_bytes % SECTOR == 0
        assert extent.length_bytes > 0
        assert extent.offset_bytes + extent.length_bytes <= end
    assert found


@given(cells(), st.floats(0, 2000, allow_nan=False), st.floats(0, 2000, allow_nan=False))
def test_later_moments_lie_further_on(made: tuple[Cell, ...], one: float, other: float) -> None:
    early, late = sorted((one, other))
    starts = [next(iter(_pieces(made, at)))[1].offset_bytes for at in (early, late)]
    assert starts == sorted(starts)


@given(st.floats(0.1, 50_000, allow_nan=False), st.integers(1, 12))
def test_moments_are_spread_over_the_title(duration_s: float, count: int) -> None:
    times = frame_times(duration_s, count)
    assert len(times) == count
    assert times == sorted(times)
    assert all(0 <= at <= duration_s for at in times)


def test_frames_of_files_and_refusals(media: Path, film_disc: Source) -> None:
    kite = read_source(media / "camera" / "Kite day.mp4").titles[0]
    early, late = (frame_jpeg(kite, at, 72) for at in (2.0, 20.0))
    assert early != late
    silent = Title(number=1, duration_s=5, size_bytes=1, data=FileData(path="/nowhere"), container="mp3")
    with pytest.raises(EngineError, match="no picture"):
        frame_jpeg(silent, 1.0, 72)
    assert sample_pictures(silent) is None


def test_finer_samples_take_more_bits(media: Path) -> None:
    launch = read_source(media / "camera" / "launch of the ferry.avi").titles[0]
    found = sample_pictures(launch)
    assert found is not None
    assert 0 < found.coarse_bits < found.fine_bits < 2
