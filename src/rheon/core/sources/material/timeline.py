"""Time stamps of a disc title put onto one time line, so that cells whose clocks restart play on without a jump.

Source of the layouts: ISO/IEC 13818-1, 2.4.3.7 (PES headers) and 2.5.3 (packs).
"""

from __future__ import annotations

from dataclasses import dataclass

from ...media import PTS_HZ, SECTOR_BYTES, Cell
from ..bluray.transport_stream import read_pts
from ..dvd.navigation import SYSTEM_HEADER, is_navigation, read_navigation
from .gates import Gate, UntilEnd
from .sound_packets import packet_at

PACK_START = b"\x00\x00\x01\xba"
PTS_BITS = (1 << 33) - 1
TABLE_TRUST_S = 0.6
IDS_WITH_PTS = frozenset({0xBD, 0xFD, *range(0xC0, 0xF0)})


def shift_pts(data: bytearray, at: int, offset: int) -> None:
    """Move the five-byte time stamp at ``at`` by ``offset`` ticks of 90 kHz, its marker bits kept."""
    new = read_pts(data, at) + offset & PTS_BITS
    data[at] = data[at] & 0xF1 | new >> 29 & 0x0E
    data[at + 1] = new >> 22 & 0xFF
    data[at + 2] = new >> 14 & 0xFE | 1
    data[at + 3] = new >> 7 & 0xFF
    data[at + 4] = new << 1 & 0xFE | 1


def shift_packet(data: bytearray, at: int, end: int, offset: int) -> None:
    """Move the stamps of the PES packet whose start code is at ``at``; a damaged header is left alone."""
    if at + 14 > end or data[at + 6] >> 6 != 2:
        return
    flags = data[at + 7] >> 6
    if flags & 2:
        shift_pts(data, at + 9, offset)
    if flags == 3 and at + 19 <= end:
        shift_pts(data, at + 14, offset)


@dataclass(slots=True)
class ProgramTimeline:
    """Program stream sectors on one time line.

    Each cell's first navigation pack says at which PTS the cell starts; the cell is moved to where the one before
    it ended. Sectors that are no packs (read errors leave such) are dropped: the stretch is lost and nothing else.
    What ``gate`` does not let pass is dropped too; ``places`` is off for sectors that lie before or behind their cell.
    """

    offset: int = 0
    expected: int | None = None
    within: bool = False
    ahead_s: float = 0.0
    origin: int = 0
    gate: Gate | None = None
    places: bool = True

    def begin(self, cell: Cell, gate: Gate | None = None) -> None:
        """Go on to the next cell of the title."""
        self.within = False
        self.ahead_s = cell.start_s
        self.gate, self.places = gate, True

    def before(self, cell: Cell, gate: Gate | None = None) -> None:
        """Go on to what lies before a cell that is next: it is placed as the cell will be."""
        self.ahead_s = cell.start_s
        self.gate, self.places = gate, False
        if cell.pts is not None:
            self._place(cell.pts)

    def behind(self) -> UntilEnd | None:
        """Go on to what lies behind the cell; only its own last sound passes. ``None`` where no end is known."""
        if self.expected is None:
            return None
        gate = UntilEnd(end=self.expected - self.offset)
        self.gate, self.places = gate, False
        return gate

    def pass_on(self, chunk: bytes) -> bytes:
        """The chunk (whole sectors) with its stamps moved; unchanged where nothing had to be."""
        kept: list[bytes] | None = None
        start = 0
        data: bytearray | None = bytearray(chunk) if self.gate else None
        for at in range(0, len(chunk), SECTOR_BYTES):
            if not self._passes(data if data is not None else chunk, at):
                kept = kept if kept is not None else []
                kept.append(bytes((data or chunk)[start:at]))
                start = at + SECTOR_BYTES
            elif self.offset:
                data = data if data is not None else bytearray(chunk)
                _shift_sector(data, at, self.offset)
        if kept is None:
            return bytes(data) if data is not None else chunk
        return b"".join([*kept, bytes((data or chunk)[start:])])

    def _passes(self, data: bytes | bytearray, at: int) -> bool:
        if data[at : at + 4] != PACK_START or len(data) - at < SECTOR_BYTES:
            return False
        if self.places and data[at + 14 : at + 18] == SYSTEM_HEADER and is_navigation(data, at):
            self._navigate(data, at)
        return self.gate is None or (isinstance(data, bytearray) and self.gate.passes(data, at))

    def _navigate(self, data: bytes | bytearray, at: int) -> None:
        pack = read_navigation(data, at)
        if pack is None:
            return
        if not self.within:
            self.within = True
            self._place(pack.start_pts - round((pack.elapsed_s or 0.0) * PTS_HZ))
        self.expected = pack.end_pts + self.offset

    def _place(self, start_pts: int) -> None:
        """Choose the offset for a cell that starts at ``start_pts`` in its own time."""
        if self.expected is None:
            self.origin = start_pts - round(self.ahead_s * PTS_HZ)
            return
        by_table = self.origin + round(self.ahead_s * PTS_HZ)
        # the end of the last unit is exact; after a damaged stretch only the table still knows
        trusted = abs(self.expected - by_table) <= TABLE_TRUST_S * PTS_HZ
        self.offset = (self.expected if trusted else by_table) - start_pts


def _shift_sector(data: bytearray, at: int, offset: int) -> None:
    end = at + SECTOR_BYTES
    packet = packet_at(data, at)
    while packet + 9 <= end and data[packet : packet + 3] == b"\x00\x00\x01":
        if data[packet + 3] in IDS_WITH_PTS:
            shift_packet(data, packet, end, offset)
        packet += 6 + int.from_bytes(data[packet + 4 : packet + 6])
