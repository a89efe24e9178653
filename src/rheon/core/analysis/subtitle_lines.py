"""Counting the lines of subtitle tracks, and how many of them are forced, from the data themselves.

Sources: DVD-Video, part 3, for the commands of subpicture units; US patent application 2009/0185789 A1 for the
segments of presentation graphics.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from ..media import SECTOR_BYTES, CellData, Extent, StreamKind, SubtitleStream, Title
from ..sources.bluray.transport_stream import M2TS_BYTES, SYNC, TS_BYTES
from ..sources.images.disc_files import pieces
from ..sources.material.feed import feed_extents
from ..sources.material.sound_packets import packet_at
from ..subtitles import LARGEST_BYTES, read_subtitles
from ..system import read_inside
from .findings import SubtitlesFound

MOST_BYTES = 400 << 20
PLACES = 40
PRIVATE = b"\x00\x00\x01\xbd"
FORCED_START, START = 0x00, 0x01
ARGUMENT_BYTES = {0x00: 0, 0x01: 0, 0x02: 0, 0x03: 2, 0x04: 2, 0x05: 6, 0x06: 4}
COMPOSITION, FORCED_OBJECT, CROPPED_OBJECT = 0x16, 0x40, 0x80
LARGEST_GATHERED = 1 << 16


@dataclass(slots=True)
class LineCount:
    """Lines of one track so far, and the unit that is being gathered."""

    lines: int = 0
    forced: int = 0
    gathered: bytearray = field(default_factory=bytearray)


def count_subtitles(title: Title) -> tuple[SubtitlesFound, ...]:
    """Count the lines of the disc's subtitle tracks, and of text files beside a file. Raises ``OSError``."""
    beside = [track for track in title.subtitles if track.path is not None]
    found = [_text(track) for track in beside]
    data = title.data
    pictured = [track for track in title.subtitles if track.path is None and track.stream_id is not None]
    if isinstance(data, CellData) and pictured:
        found += _pictures(data, pictured)
    return tuple(sorted(found, key=lambda entry: entry.index))


def _text(track: SubtitleStream) -> SubtitlesFound:
    lines = len(read_subtitles(read_inside(track.path or "", LARGEST_BYTES)).lines)
    return SubtitlesFound(index=track.index, lines=lines, forced=lines if track.forced.value == "all" else 0, sure=1.0)


def _pictures(data: CellData, tracks: Sequence[SubtitleStream]) -> list[SubtitlesFound]:
    extents, share = _places(data)
    read = count_graphics if data.stream is StreamKind.TRANSPORT else count_subpictures
    counts: dict[int, LineCount] = {track.stream_id: LineCount() for track in tracks if track.stream_id is not None}
    for extent in extents:
        for count in counts.values():
            count.gathered.clear()
        read(feed_extents([extent]), counts)
    return [
        SubtitlesFound(
            index=track.index,
            lines=round(counts[track.stream_id].lines / share),
            forced=round(counts[track.stream_id].forced / share),
            sure=round(1.0 if share > 0.99 else 0.5 + 0.4 * share, 2),
        )
        for track in tracks
        if track.stream_id is not None
    ]


def _places(data: CellData) -> tuple[list[Extent], float]:
    """What to read, and which share of the title that is: all of a short title, places all over a long one."""
    extents = data.extents
    total = sum(extent.length_bytes for extent in extents)
    if total <= MOST_BYTES:
        return list(extents), 1.0
    grain = M2TS_BYTES if data.stream is StreamKind.TRANSPORT else SECTOR_BYTES
    each = MOST_BYTES // PLACES // grain * grain
    starts = (total * place // PLACES // grain * grain for place in range(PLACES))
    return [piece for start in starts for piece in pieces(extents, start, start + each)], MOST_BYTES / total


def count_subpictures(chunks: Iterator[bytes], counts: dict[int, LineCount]) -> None:
    """Count the units of DVD subpicture streams in sectors of a program stream."""
    for chunk in chunks:
        for at in range(0, len(chunk) - SECTOR_BYTES + 1, SECTOR_BYTES):
            packet = packet_at(chunk, at)
            if chunk[packet : packet + 4] != PRIVATE:
                continue
            start = packet + 9 + chunk[packet + 8]
            count = counts.get(chunk[start]) if start < at + SECTOR_BYTES else None
            if count is None:
                continue
            end = min(at + SECTOR_BYTES, packet + 6 + int.from_bytes(chunk[packet + 4 : packet + 6]))
            if chunk[packet + 7] & 0x80:
                count.gathered.clear()
            count.gathered += chunk[start + 1 : end]
            _finish(count)


def _finish(count: LineCount) -> None:
    """Judge the unit when it is whole."""
    spu = count.gathered
    if len(spu) < 4 or len(spu) < int.from_bytes(spu[:2]):
        return
    shown, forced = subpicture_commands(bytes(spu))
    count.lines += shown
    count.forced += forced
    spu.clear()


def subpicture_commands(spu: bytes) -> tuple[bool, bool]:
    """(whether a subpicture unit shows something, whether that is forced)."""
    at = int.from_bytes(spu[2:4])
    for _ in range(64):
        if at + 4 >= len(spu):
            break
        following, place = int.from_bytes(spu[at + 2 : at + 4]), at + 4
        while place < len(spu) and spu[place] in ARGUMENT_BYTES:
            if spu[place] in (FORCED_START, START):
                return True, spu[place] == FORCED_START
            place += 1 + ARGUMENT_BYTES[spu[place]]
        if following <= at:
            break
        at = following
    return False, False


def count_graphics(chunks: Iterator[bytes], counts: dict[int, LineCount]) -> None:
    """Count the compositions of presentation graphics in 192-byte packets of a transport stream."""
    rest = b""
    for chunk in chunks:
        data = rest + chunk
        whole = len(data) // M2TS_BYTES * M2TS_BYTES
        rest = data[whole:]
        for at in range(4, whole, M2TS_BYTES):
            if data[at] != SYNC or data[at + 1] & 0x1F != 0x12:
                continue
            count = counts.get((data[at + 1] & 0x1F) << 8 | data[at + 2])
            if count is None or not data[at + 3] & 0x10:
                continue
            start = at + 4 + (1 + data[at + 4] if data[at + 3] & 0x20 else 0)
            if data[at + 1] & 0x40:
                _segments(count)
                count.gathered.clear()
                start += 9 + data[min(start + 8, at + TS_BYTES - 1)]
            if len(count.gathered) < LARGEST_GATHERED:
                count.gathered += data[start : at + TS_BYTES]
    for count in counts.values():
        _segments(count)


def _segments(count: LineCount) -> None:
    """Count the compositions among the segments of a finished packet."""
    data, at = count.gathered, 0
    while at + 3 <= len(data):
        length = int.from_bytes(data[at + 1 : at + 3])
        body = data[at + 3 : at + 3 + length]
        if data[at] == COMPOSITION and len(body) >= 11 and body[10]:
            count.lines += 1
            count.forced += _any_forced(body)
        at += 3 + length
    data.clear()


def _any_forced(body: bytearray) -> bool:
    at = 11
    for _ in range(body[10]):
        if at + 4 > len(body):
            return False
        if body[at + 3] & FORCED_OBJECT:
            return True
        at += 16 if body[at + 3] & CROPPED_OBJECT else 8
    return False
