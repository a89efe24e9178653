"""Where the items of a Blu-ray playlist lie in their clips. Pure."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...media import Cell, Extent
from ..images.disc_files import pieces
from .clpi import ClipInfo
from .mpls import TICKS, PlayItem
from .transport_stream import M2TS_BYTES

SNAP_TICKS = 3 * TICKS
"""In and out times move to an entry point where one is so near; in a clip whose map has a hole they stay."""
ENTRY_STEP_TICKS = 1 << 8
LAP_BYTES = 12 << 20


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipPlace:
    """A clip's bytes, and what its table says (``None`` where it was not kept)."""

    runs: tuple[Extent, ...]
    info: ClipInfo | None

    @property
    def size_bytes(self) -> int:
        return sum(extent.length_bytes for extent in self.runs)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Cut:
    """A place to cut a clip: the time stamp (45 kHz) and the byte."""

    time: int
    byte: int


def located(
    items: Sequence[PlayItem], places: Mapping[str, ClipPlace], marks: Sequence[tuple[int, int]], angle: int = 0
) -> tuple[Cell, ...]:
    """The items as cells, each cut at its chapters. An item whose clip is not there is a cell without bytes."""
    cells: list[Cell] = []
    at_s = 0.0
    for number, item in enumerate(items):
        place = places.get(item.clips[min(angle, len(item.clips) - 1)])
        if place is None:
            cells.append(Cell(start_s=at_s, duration_s=item.duration_s, extents=()))
            at_s += item.duration_s
            continue
        inner = [time for owner, time in marks if owner == number and item.in_time < time < item.out_time]
        cuts = _cuts(place, item, sorted(set(inner)))
        for one, other in itertools.pairwise(cuts):
            duration_s = round((other.time - one.time) / TICKS, 6)
            last = other is cuts[-1]
            cells.append(
                Cell(
                    start_s=round(at_s, 6),
                    duration_s=duration_s,
                    extents=pieces(place.runs, one.byte, other.byte),
                    pts=one.time * 2,
                    still_s=item.still_s if last else 0,
                    lap=pieces(place.runs, other.byte, min(place.size_bytes, other.byte + LAP_BYTES)),
                )
            )
            at_s += duration_s
    return tuple(cells)


def _cuts(place: ClipPlace, item: PlayItem, inner: Sequence[int]) -> list[_Cut]:
    """From the item's start over its chapters to its end, each moved to the nearest entry point."""
    end = place.size_bytes // M2TS_BYTES * M2TS_BYTES
    info = place.info
    if info is None or not info.entry_times:
        # no map: chapters can't be found in the bytes, and the whole clip is read for its stretch
        return [_Cut(time=item.in_time, byte=0), _Cut(time=item.out_time, byte=end)]
    cuts = [_start(info, item)]
    for time in inner:
        found = _entry(info, time)
        if found is not None and found.byte < end and found.time > cuts[-1].time:
            cuts.append(found)
    cuts.append(_end(info, item, end, cuts[-1]))
    return cuts


def _start(info: ClipInfo, item: PlayItem) -> _Cut:
    found = _entry(info, item.in_time)
    if found is None or found.byte == info.entry_packets[0] * M2TS_BYTES:
        return _Cut(time=found.time if found else item.in_time, byte=0)
    return found


def _end(info: ClipInfo, item: PlayItem, end: int, last: _Cut) -> _Cut:
    found = _entry(info, item.out_time)
    runs_out = item.out_time >= info.end - TICKS // 2 or item.out_time > info.entry_times[-1]
    if runs_out or found is None or found.time <= last.time:
        return _Cut(time=max(item.out_time, last.time), byte=end)
    return found


def _entry(info: ClipInfo, time: int) -> _Cut | None:
    at = info.nearest_entry(time)
    if at is None or abs(info.entry_times[at] - time) > SNAP_TICKS:
        return None
    # the map says times in steps only; what is asked for within a step is the entry point itself
    entry = info.entry_times[at]
    exact = 0 <= time - entry < ENTRY_STEP_TICKS
    return _Cut(time=time if exact else entry, byte=info.entry_packets[at] * M2TS_BYTES)
