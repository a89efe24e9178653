"""Blu-ray clips put onto one time line: each stretch is moved to where the one before it ended, and nothing overlaps.

Source of the layouts: ISO/IEC 13818-1, 2.4.3 (transport packets) and 2.4.4.8 (program map).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from ...media import PTS_HZ, Cell, Extent
from ..bluray.transport_stream import M2TS_BYTES, SYNC, TS_BYTES, packet_pts, payload_start
from .timeline import IDS_WITH_PTS, PTS_BITS, shift_packet

FIRST_TABLE_IDS = 0x1000
"""Packet ids below are tables (program association and map), which always pass."""
PICTURE_IDS, SOUND_IDS = range(0x1011, 0x1100), range(0x1100, 0x1200)
EARLY_SOUND_TICKS = PTS_HZ // 2
JOIN_TICKS = 45
TRUEHD_EXTENSION = 0x72


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """Cells that follow each other in one clip: from which time stamp to which, and how far they are moved."""

    start_pts: int
    end_pts: int
    offset: int
    extents: tuple[Extent, ...]
    lap: tuple[Extent, ...]


def stretches(cells: Sequence[Cell]) -> Iterator[Stretch]:
    """Join the cells that need no join in the data."""
    origin = next((cell.pts for cell in cells if cell.pts is not None), 0)
    pending: list[Cell] = []
    for cell in cells:
        if pending and not _follows(pending[-1], cell):
            yield _stretch(pending, origin)
            pending = []
        pending.append(cell)
    if pending:
        yield _stretch(pending, origin)


def _follows(one: Cell, other: Cell) -> bool:
    if one.pts is None or other.pts is None or not one.extents or not other.extents:
        return False
    last, first = one.extents[-1], other.extents[0]
    touching = last.path == first.path and last.offset_bytes + last.length_bytes == first.offset_bytes
    return touching and abs(one.pts + round(one.duration_s * PTS_HZ) - other.pts) <= JOIN_TICKS


def _stretch(cells: Sequence[Cell], origin: int) -> Stretch:
    first, last = cells[0], cells[-1]
    pts = first.pts or 0
    length_s = last.start_s + last.duration_s - first.start_s
    return Stretch(
        start_pts=pts,
        end_pts=pts + round(length_s * PTS_HZ),
        offset=origin + round(first.start_s * PTS_HZ) - pts,
        extents=tuple(extent for cell in cells for extent in cell.extents),
        lap=last.lap,
    )


@dataclass(slots=True)
class TransportTimeline:
    """Whole 192-byte packets of one stretch as 188-byte ones, moved, and cut to the stretch's time.

    A picture is dropped before the stretch's first entry point and, in coding order, from the first one after its
    end; sound and words are dropped by their own time stamps. ``lapping`` is set for the bytes behind the stretch.
    ``cores`` are the packet ids of TrueHD tracks of which only the AC-3 core is wanted.
    """

    stretch: Stretch
    cores: frozenset[int] = frozenset()
    lapping: bool = False
    first: bool = False
    ended: set[int] = field(default_factory=set)
    passing: dict[int, bool] = field(default_factory=dict)

    @property
    def is_over(self) -> bool:
        """Whether every stream seen has gone past the end."""
        return bool(self.passing) and self.ended >= {pid for pid in self.passing if pid < 0x1200}

    def pass_on(self, data: bytearray) -> bytes:
        made = bytearray()
        for at in range(4, len(data), M2TS_BYTES):
            packet_id = (data[at + 1] & 0x1F) << 8 | data[at + 2]
            if packet_id >= FIRST_TABLE_IDS:
                if (packet := payload_start(data, at)) is not None and data[packet + 3] in IDS_WITH_PTS:
                    self.passing[packet_id] = self._wanted(data, packet_id, packet)
                if not self.passing.get(packet_id, packet_id not in PICTURE_IDS):
                    continue
            elif self.lapping:
                continue
            elif self.cores:
                _only_cores(data, at, self.cores)
            if self.stretch.offset:
                _shift_packet(data, at, self.stretch.offset)
            made += data[at : at + TS_BYTES]
        return bytes(made)

    def _wanted(self, data: bytearray, packet_id: int, packet: int) -> bool:
        if packet_id in self.cores and stream_extension(data, packet) == TRUEHD_EXTENSION:
            return False
        if packet_id in self.ended:
            return False
        pts = packet_pts(data, packet)
        if pts is None:
            return self.passing.get(packet_id, False)
        if _ahead(pts, self.stretch.end_pts) >= 0:
            if packet_id in PICTURE_IDS or packet_id in SOUND_IDS:
                self.ended.add(packet_id)
            return False
        # packets hold several frames of sound: who reads the first stretch cuts those that begin too early
        early = EARLY_SOUND_TICKS if self.first and packet_id in SOUND_IDS else 0
        return _ahead(pts, self.stretch.start_pts) >= -early


def _ahead(pts: int, of: int) -> int:
    """How far a 33-bit PTS lies behind another, negative where it lies before it."""
    apart = pts - of & PTS_BITS
    return apart - PTS_BITS - 1 if apart > PTS_BITS >> 1 else apart


def stream_extension(data: bytes | bytearray, packet: int) -> int | None:
    """The stream id extension of a PES header, by which a TrueHD track is told from its core."""
    flags = data[packet + 7]
    at = packet + 9 + (5 if flags & 0x80 else 0) + (5 if flags & 0xC0 == 0xC0 else 0)
    at += (6 if flags & 0x20 else 0) + (3 if flags & 0x10 else 0) + (1 if flags & 8 else 0)
    at += (1 if flags & 4 else 0) + (2 if flags & 2 else 0)
    if not flags & 1 or at + 3 > len(data):
        return None
    more = data[at]
    at += 1 + (16 if more & 0x80 else 0) + (2 if more & 0x20 else 0) + (2 if more & 0x10 else 0)
    if not more & 1 or at + 2 > len(data):
        return None
    return data[at + 1]


def _only_cores(data: bytearray, at: int, cores: frozenset[int]) -> None:
    """Say of these TrueHD tracks in a program map that they are AC-3, which their cores are."""
    start = at + 4 + (1 + data[at + 4] if data[at + 3] & 0x20 else 0)
    if not data[at + 1] & 0x40 or start + 1 >= at + TS_BYTES:
        return
    section = start + 1 + data[start]
    if section + 12 >= at + TS_BYTES or data[section] != 2:
        return
    end = section + 3 + ((data[section + 1] & 0x0F) << 8 | data[section + 2]) - 4
    entry = section + 12 + ((data[section + 10] & 0x0F) << 8 | data[section + 11])
    while entry + 5 <= min(end, at + TS_BYTES):
        if data[entry] == 0x83 and (data[entry + 1] & 0x1F) << 8 | data[entry + 2] in cores:
            data[entry] = 0x81
        entry += 5 + ((data[entry + 3] & 0x0F) << 8 | data[entry + 4])
    if end + 4 <= at + TS_BYTES:
        data[end : end + 4] = section_check(data[section:end]).to_bytes(4)


def section_check(data: bytes | bytearray) -> int:
    """The CRC-32 of a table section (ISO/IEC 13818-1, annex A)."""
    value = 0xFFFFFFFF
    for byte in data:
        value ^= byte << 24
        for _ in range(8):
            value = (value << 1 ^ 0x04C11DB7 if value & 0x80000000 else value << 1) & 0xFFFFFFFF
    return value


def transport_packets(chunks: Iterator[bytes]) -> Iterator[bytearray]:
    """Runs of whole 192-byte packets; where the sync byte is lost, the next place with four in step is looked for."""
    rest = b""
    for chunk in chunks:
        data = rest + chunk
        at = 0
        while at + M2TS_BYTES <= len(data):
            if data[at + 4] != SYNC:
                at = _resync(data, at)
                continue
            end = at
            while end + M2TS_BYTES <= len(data) and data[end + 4] == SYNC:
                end += M2TS_BYTES
            yield bytearray(data[at:end])
            at = end
        rest = data[at:]


def _resync(data: bytes, at: int) -> int:
    last = len(data) - 4 * M2TS_BYTES
    found = data.find(SYNC, at + 5)
    while 0 <= found - 4 <= last:
        if all(data[found + n * M2TS_BYTES] == SYNC for n in range(1, 4)):
            return found - 4
        found = data.find(SYNC, found + 1)
    return max(at + 1, last + 1)


def _shift_packet(data: bytearray, at: int, offset: int) -> None:
    adaptation = data[at + 3] >> 4 & 3
    payload = at + 4
    if adaptation & 2:
        length = data[at + 4]
        if length >= 7 and data[at + 5] & 0x10:
            _shift_reference(data, at + 6, offset)
        payload += 1 + length
    end = at + TS_BYTES
    starts = adaptation & 1 and data[at + 1] & 0x40 and payload + 9 <= end
    if starts and data[payload : payload + 3] == b"\x00\x00\x01" and data[payload + 3] in IDS_WITH_PTS:
        shift_packet(data, payload, end, offset)


def _shift_reference(data: bytearray, at: int, offset: int) -> None:
    """The 33-bit base of a program clock reference (the 9-bit extension stays)."""
    word = int.from_bytes(data[at : at + 5])
    base = (word >> 7) + offset & PTS_BITS
    data[at : at + 5] = (base << 7 | word & 0x7F).to_bytes(5)
