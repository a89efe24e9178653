"""Where in a disc's cell a moment lies, by the time stamps in the data: found by halving, never by reading it all."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from ...media import PTS_HZ, SECTOR_BYTES, Cell, CellData, Extent, StreamKind
from ..bluray.transport_stream import M2TS_BYTES, picture_pts
from ..dvd.navigation import is_navigation, read_navigation
from ..images.disc_files import pieces
from .feed import feed_extents
from .transport_timeline import transport_packets

LOOK_BYTES = {StreamKind.PROGRAM: 640 * SECTOR_BYTES, StreamKind.TRANSPORT: 2048 * M2TS_BYTES}
"""So much is read at a place until a time stamp is met: a DVD has one at least every second."""
CLOSE_BYTES = 256 << 10
AHEAD_S = 2.2
"""Decoding begins so long before a moment: a Blu-ray may have two seconds between key pictures, a DVD less."""
BEHIND_S = 3.0
"""What belongs to a moment lies no further behind it in the data: sound and subtitles come after their pictures."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Where to read to decode what is shown at a moment; ``zero_s`` is the title's first moment in the data's time."""

    parts: tuple[Extent, ...]
    zero_s: float


def find_place(data: CellData, moment_s: float, most_bytes: int) -> Place | None:
    """Up to ``most_bytes`` from before a moment (seconds of the title) on, within its cell.

    ``None`` where the tables tell no time stamps. Raises ``OSError`` where the data can't be read.
    """
    within_s = moment_s + data.skip_s
    cell = next((one for one in data.cells if one.start_s + one.duration_s > within_s), None)
    if cell is None or cell.pts is None:
        return None
    begin = place_before(cell, data.stream, max(0.0, within_s - cell.start_s))
    inside = pieces(cell.extents, begin, min(cell.size_bytes, begin + most_bytes))
    parts = (*cell.lead, *inside) if begin == 0 else inside
    return Place(parts=parts, zero_s=cell.pts / PTS_HZ - cell.start_s + data.skip_s)


def place_before(cell: Cell, kind: StreamKind, within_s: float) -> int:
    """The byte of the cell from which a picture ``within_s`` into it can be decoded; for a DVD, where a unit begins.

    Its beginning where that is unknown. Raises ``OSError`` where the data can't be read.
    """
    first = cell.pts
    if first is None or within_s <= AHEAD_S:
        return 0
    wanted = first + round((within_s - AHEAD_S) * PTS_HZ)
    return _parted(cell, kind, lambda found: found is not None and first <= found <= wanted)[0]


def _place_behind(cell: Cell, kind: StreamKind, within_s: float) -> int:
    """A byte of the cell behind which nothing lies of what is shown or heard in its first ``within_s``.

    Its end where that is unknown. Raises ``OSError`` where the data can't be read.
    """
    if cell.pts is None or within_s + BEHIND_S >= cell.duration_s:
        return cell.size_bytes
    wanted = cell.pts + round((within_s + BEHIND_S) * PTS_HZ)
    return _parted(cell, kind, lambda found: found is None or found <= wanted)[1]


def _parted(cell: Cell, kind: StreamKind, is_before: Callable[[int | None], bool]) -> tuple[int, int]:
    """Two bytes of a cell close to each other, between which lies what parts its time stamps.

    ``is_before`` judges the first one that is met from a byte on, ``None`` where none is.
    """
    grain = M2TS_BYTES if kind is StreamKind.TRANSPORT else SECTOR_BYTES
    low, high = 0, cell.size_bytes
    while high - low > CLOSE_BYTES:
        middle = (low + high) // 2 // grain * grain
        found = _first_pts(cell, kind, middle)
        if is_before(found.pts if found else None):
            low = found.at if found else middle
        else:
            high = middle
    return low, high


def begun_near(data: CellData) -> CellData:
    """The same title, read from a little before its first moment on instead of from its first cell's beginning.

    Raises ``OSError`` where the data can't be read.
    """
    first, *others = data.cells
    begin = place_before(first, data.stream, data.skip_s)
    if not begin:
        return data
    near = replace(first, extents=pieces(first.extents, begin, first.size_bytes), lead=())
    return replace(data, cells=(near, *others))


def narrowed(data: CellData, length_s: float) -> CellData:
    """A DVD's title, of which only so many seconds are needed, from a clean start a little before them on.

    Who cuts by time stamps cuts the same out of it. Raises ``OSError`` where the data can't be read.
    """
    if data.stream is not StreamKind.PROGRAM or not data.cells:
        return data
    *others, last = data.cells
    end = _place_behind(last, data.stream, data.skip_s + length_s - last.start_s)
    if end < last.size_bytes:
        last = replace(last, extents=pieces(last.extents, 0, end), lap=())
    return begun_near(replace(data, cells=(*others, last)))


@dataclass(frozen=True, slots=True, kw_only=True)
class _PtsAt:
    """A PTS in a cell's data, and the byte of the cell where it was met."""

    pts: int
    at: int


def _first_pts(cell: Cell, kind: StreamKind, at: int) -> _PtsAt | None:
    parts = pieces(cell.extents, at, min(cell.size_bytes, at + LOOK_BYTES[kind]))
    if kind is StreamKind.TRANSPORT:
        for packets in transport_packets(feed_extents(parts)):
            for place in range(4, len(packets), M2TS_BYTES):
                if (pts := picture_pts(bytes(packets[place : place + M2TS_BYTES - 4]), 0)) is not None:
                    return _PtsAt(pts=pts, at=at)
        return None
    passed = at
    for chunk in feed_extents(parts):
        for place in range(0, len(chunk) - SECTOR_BYTES + 1, SECTOR_BYTES):
            if is_navigation(chunk, place) and (pack := read_navigation(chunk, place)) is not None:
                return _PtsAt(pts=pack.start_pts, at=passed + place)
        passed += len(chunk)
    return None
