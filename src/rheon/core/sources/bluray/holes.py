"""Stretches of Blu-ray clips that can't be read, found by asking where the clip tables say that pictures start."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ...media import Cell, Extent, Gap
from ..faults import joined
from ..images.disc_files import DiscFiles, pieces
from .cells import ClipPlace
from .mpls import TICKS
from .transport_stream import M2TS_BYTES, SYNC

MOST_CHECKS = 400


@dataclass(frozen=True, slots=True, kw_only=True)
class Hole:
    """From which entry point to which a clip can't be read: times at 45 kHz, and the bytes."""

    start: int
    end: int
    extents: tuple[Extent, ...]


def find_holes(files: DiscFiles, place: ClipPlace) -> tuple[Hole, ...]:
    """The holes of a clip; none where it has no table. At most ``MOST_CHECKS`` places are looked at."""
    info = place.info
    if info is None or not info.entry_times:
        return ()
    count = len(info.entry_times)
    step = max(1, count // MOST_CHECKS)
    looked = {at: _in_step(files, place, info.entry_packets[at]) for at in range(0, count, step)}
    for at in [at for at, ok in looked.items() if not ok]:
        for near in range(max(0, at - step), min(count, at + step + 1)):
            if near not in looked:
                looked[near] = _in_step(files, place, info.entry_packets[near])
    return tuple(_holes(place, looked))


def gaps_in(cells: Sequence[Cell], holes: Sequence[Hole]) -> tuple[Gap, ...]:
    """Where the holes lie in a title's time."""
    found = []
    for cell in cells:
        if cell.pts is None:
            continue
        begin, end = cell.pts / 2, cell.pts / 2 + cell.duration_s * TICKS
        for hole in holes:
            low, high = max(begin, hole.start), min(end, hole.end)
            if low < high and _touch(cell.extents, hole.extents):
                found.append(
                    Gap(from_s=cell.start_s + (low - begin) / TICKS, to_s=cell.start_s + (high - begin) / TICKS)
                )
    return joined(found)


def _in_step(files: DiscFiles, place: ClipPlace, packet: int) -> bool:
    at = packet * M2TS_BYTES
    data = b"".join(map(files.read_extent, pieces(place.runs, at, at + 3 * M2TS_BYTES)))
    return len(data) == 3 * M2TS_BYTES and all(data[4 + n * M2TS_BYTES] == SYNC for n in range(3))


def _holes(place: ClipPlace, looked: dict[int, bool]) -> Iterator[Hole]:
    """Runs of entry points that are not there, each up to the next one that is."""
    info = place.info
    assert info is not None
    first: int | None = None
    for at in [*sorted(looked), None]:
        if at is not None and not looked[at]:
            first = at if first is None else first
        elif first is not None:
            end = info.end if at is None else info.entry_times[at]
            byte = place.size_bytes if at is None else info.entry_packets[at] * M2TS_BYTES
            start_byte = info.entry_packets[first] * M2TS_BYTES
            yield Hole(start=info.entry_times[first], end=end, extents=pieces(place.runs, start_byte, byte))
            first = None


def _touch(some: Sequence[Extent], others: Sequence[Extent]) -> bool:
    return any(
        one.path == other.path
        and one.offset_bytes < other.offset_bytes + other.length_bytes
        and other.offset_bytes < one.offset_bytes + one.length_bytes
        for one in some
        for other in others
    )
