"""Titles whose cells do not follow each other smoothly: clocks that restart, holes, other angles."""

from __future__ import annotations

import itertools
from io import FileIO
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.sources.disc_surgery import angle_disc, one_after_the_other, pts_of, title_bytes, vobus_of

from rheon.core.media import CellData, Extent, Source
from rheon.core.sources import read_source
from rheon.core.sources.material import feed
from rheon.core.sources.material.feed import feed_extents, feed_title
from rheon.core.sources.material.timeline import PTS_BITS, ProgramTimeline, shift_pts
from rheon.core.wording import problem_text

SECTOR = 2048


def pts_bytes(value: int) -> bytearray:
    made = value << 1 & 0xFE | 1
    parts = [0x21 | value >> 29 & 0x0E, value >> 22 & 0xFF, value >> 14 & 0xFE | 1, value >> 7 & 0xFF, made]
    return bytearray(part & 0xFF for part in parts)


@given(st.integers(0, PTS_BITS), st.integers(-PTS_BITS, PTS_BITS))
def test_a_pts_moves_by_exactly_the_offset_and_wraps(value: int, offset: int) -> None:
    data = pts_bytes(value)
    shift_pts(data, 0, offset)
    assert data == pts_bytes((value + offset) & PTS_BITS)


def test_clocks_that_restart_between_cells_come_out_as_one_time(series_disc: Source) -> None:
    titles = series_disc.titles[:3]
    joined = one_after_the_other(*titles)
    raw = pts_of(feed_extents(joined.extents), "v")
    assert any(later < earlier - 1 for earlier, later in itertools.pairwise(raw)), "the source restarts its clock"
    total = sum(title.duration_s for title in titles)
    for kind, step in (("v", 0.3), ("a:0", 0.1)):
        times = pts_of(feed_title(joined), kind)
        ordered = sorted(times)
        assert ordered[-1] - ordered[0] == pytest.approx(total, abs=0.5)
        assert max(later - earlier for earlier, later in itertools.pairwise(ordered)) < step


def test_picture_and_sound_stay_together_over_a_restart(series_disc: Source) -> None:
    titles = series_disc.titles[:2]

    def first_after(times: list[float], at: float) -> float:
        return min(time for time in times if time >= at)

    joined = one_after_the_other(*titles)
    picture, sound = (pts_of(feed_title(joined), kind) for kind in ("v", "a:0"))
    restart = picture[0] + titles[0].duration_s
    moved = first_after(sound, restart - 0.01) - first_after(picture, restart - 0.01)
    # sound that lies before the second title's first picture belongs to what stands before it on the disc
    assert moved == pytest.approx(0.0, abs=0.1)


def test_a_smooth_title_passes_unchanged(film_disc: Source) -> None:
    data = film_disc.titles[0].data
    assert isinstance(data, CellData)
    assert b"".join(feed_title(data)) == title_bytes(film_disc.titles[0])


@given(st.binary(max_size=4 * SECTOR), st.integers(-10_000_000, 10_000_000))
def test_any_bytes_pass_the_time_line(data: bytes, offset: int) -> None:
    whole = b"\x00\x00\x01\xba" + data
    line = ProgramTimeline(offset=offset)
    passed = line.pass_on(whole[: len(whole) // SECTOR * SECTOR])
    assert len(passed) <= len(whole)


def test_a_hole_costs_its_stretch_is_named_and_keeps_the_rest_in_time(disc_copy: Path, media: Path) -> None:
    vob = disc_copy / "VIDEO_TS" / "VTS_01_1.VOB"
    data = bytearray((media / "MARRAM_NIGHTS" / "VIDEO_TS" / "VTS_01_1.VOB").read_bytes())
    vob.unlink()
    vobus = vobus_of(bytes(data))
    start, length = sum(map(len, vobus[:62])), sum(map(len, vobus[62:86]))
    data[start : start + length] = bytes(length)
    vob.write_bytes(data)
    read = read_source(disc_copy)
    film = read.titles[0]
    assert film.fault is None
    assert [(gap.from_s, gap.to_s) for gap in film.gaps] == [
        (pytest.approx(31.0, abs=0.6), pytest.approx(43.0, abs=0.6))
    ]
    assert "Title 1: 12 s could not be read at 0:31." in problem_text(read.problems[0])
    assert isinstance(film.data, CellData)
    fed = b"".join(feed_title(film.data))
    assert len(fed) == film.size_bytes - length
    times = sorted(pts_of(iter([fed]), "v"))
    assert times[-1] - times[0] == pytest.approx(film.duration_s, abs=0.2)
    assert max(b - a for a, b in itertools.pairwise(times)) == pytest.approx(12.0, abs=0.6)


def test_sectors_that_the_medium_refuses_are_left_out(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    path = tmp_path / "a.vob"
    path.write_bytes(b"".join(bytes([n]) * SECTOR for n in range(8)))

    class Scratched:
        def __init__(self) -> None:
            self.inner = FileIO(path)

        def __enter__(self) -> Scratched:
            return self

        def __exit__(self, *_: object) -> None:
            self.inner.close()

        def seek(self, at: int) -> None:
            self.inner.seek(at)

        def tell(self) -> int:
            return self.inner.tell()

        def read(self, length: int) -> bytes:
            at = self.inner.tell()
            if at <= 3 * SECTOR < at + length:
                raise OSError(5, "Input/output error")
            return self.inner.read(length)

    monkeypatch.setattr(feed, "open_inside", lambda *_, **__: Scratched())
    read = b"".join(feed_extents([Extent(path=str(path), offset_bytes=SECTOR, length_bytes=6 * SECTOR)]))
    assert [read[at] for at in range(0, len(read), SECTOR)] == [1, 2, 4, 5, 6]


def test_each_angle_is_followed_through_its_own_units(series_disc: Source, tmp_path: Path) -> None:
    one, other = (title_bytes(title) for title in series_disc.titles[:2])
    read = read_source(angle_disc(tmp_path / "ANGLES", one, other, 20))
    title = read.titles[0]
    assert (title.angles, len(read.titles)) == (2, 1)
    assert isinstance(title.data, CellData)
    ours = b"".join(feed_extents(title.data.extents))
    theirs = b"".join(feed_extents([extent for cell in title.data.other_angles[0] for extent in cell.extents]))
    for fed, source in ((ours, one), (theirs, other)):
        packs = [vobu[SECTOR:] for vobu in vobus_of(fed)]
        assert len(packs) > 30
        assert packs == [vobu[SECTOR:] for vobu in vobus_of(source)][: len(packs)]
