"""Time stamps of a disc title put onto one time line, so that cells whose clocks restart play on without a jump.

Source of the layouts: ISO/IEC 13818-1, 2.4.3.7 (PES headers) and 2.5.3 (packs).
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..media import CLOCK_HZ, SECTOR_BYTES, Cell
from .navigation import SYSTEM_HEADER, NavigationPack, is_navigation, read_navigation
from .sound_packets import drop_tail, keep_tail, stream_of
from .transport_stream import presentation_stamp, read_stamp

PACK_START = b"\x00\x00\x01\xba"
CLOCK_BITS = (1 << 33) - 1
TABLE_TRUST_S = 0.6
LONGEST_LAP_S = 2.0
EARLY_TICKS = CLOCK_HZ // 25
"""Sound that begins so little before its cell is the cell's own: packets hold several frames."""
PICTURES = range(0xE0, 0xF0)
STAMPED_IDS = frozenset({0xBD, 0xFD, *range(0xC0, 0xF0)})


def shift_stamp(data: bytearray, at: int, offset: int) -> None:
    """Move the five-byte time stamp at ``at`` by ``offset`` ticks of 90 kHz, its marker bits kept."""
    new = read_stamp(data, at) + offset & CLOCK_BITS
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
        shift_stamp(data, at + 9, offset)
    if flags == 3 and at + 19 <= end:
        shift_stamp(data, at + 14, offset)


@dataclass(slots=True)
class ProgramTimeline:
    """Program stream sectors on one time line.

    Each cell's first navigation pack says at which stamp the cell starts; the cell is moved to where the one before
    it ended. Sectors that are no packs (read errors leave such) are dropped: the stretch is lost and nothing else.
    """

    offset: int = 0
    expected: int | None = None
    within: bool = False
    ahead_s: float = 0.0
    origin: int = 0
    leading: bool = False
    lapping: bool = False
    joined: bool = True
    starts: int = 0
    clock: int = 0
    clipped: set[int] = field(default_factory=set)
    early: frozenset[int] = frozenset()
    begun: set[int] = field(default_factory=set)
    over: bool = False

    def begin(self, cell: Cell, *, joined: bool = True) -> None:
        """Go on to the next cell of the title; ``joined`` says that its data follow those before without a break."""
        self.within = False
        self.leading = self.lapping = self.over = False
        self.joined = joined
        self.clipped = set()
        self.ahead_s = cell.start_s
        self.clock = cell.clock or 0
        if cell.clock is not None and not joined:
            self.starts = cell.clock
            self._place(cell.clock)

    def lap(self) -> None:
        """What follows lies behind the cell: only its own last sound and subtitles pass."""
        self.lapping = True
        self.clipped = set()

    def pass_on(self, chunk: bytes) -> bytes:
        """The chunk (whole sectors) with its stamps moved; unchanged where nothing had to be."""
        kept: list[bytes] | None = None
        start = 0
        data: bytearray | None = None
        for at in range(0, len(chunk), SECTOR_BYTES):
            if chunk[at : at + 4] != PACK_START or len(chunk) - at < SECTOR_BYTES:
                kept = kept if kept is not None else []
                kept.append(bytes((data or chunk)[start:at]))
                start = at + SECTOR_BYTES
                continue
            if chunk[at + 14 : at + 18] == SYSTEM_HEADER and is_navigation(chunk, at):
                self._navigate(chunk, at)
                dropped = self.lapping or (self.leading and not self.joined)
            else:
                dropped = False
                if self.leading and not self.joined:
                    dropped = chunk[at + 14 + (chunk[at + 13] & 7) + 3] not in PICTURES
                elif self.early and self._began_before(chunk, at):
                    dropped = True
                elif self.lapping or not self.joined:
                    data = data if data is not None else bytearray(chunk)
                    dropped = not self._belongs(data, at)
                if self.offset and not dropped:
                    data = data if data is not None else bytearray(chunk)
                    _shift_sector(data, at, self.offset)
            if dropped:
                kept = kept if kept is not None else []
                kept.append(bytes((data or chunk)[start:at]))
                start = at + SECTOR_BYTES
        if kept is None:
            return bytes(data) if data is not None else chunk
        return b"".join([*kept, bytes((data or chunk)[start:])])

    def _navigate(self, chunk: bytes, at: int) -> None:
        pack = read_navigation(chunk, at)
        if pack is None or self.leading:
            return
        if self.lapping:
            self.over = self.over or self._ends_here(pack)
            return
        if not self.within:
            self.within = True
            self.starts = pack.start_clock - round((pack.elapsed_s or 0.0) * CLOCK_HZ)
            self._place(self.starts)
        self.expected = pack.end_clock + self.offset

    def _began_before(self, chunk: bytes, at: int) -> bool:
        """Whether a sector holds a subtitle line that began before the first cell does."""
        packet = at + 14 + (chunk[at + 13] & 7)
        stream = stream_of(chunk, packet)
        if stream is None or stream not in self.early:
            return False
        stamp = presentation_stamp(chunk, packet)
        if stamp is not None and stamp >= self.clock:
            self.begun.add(stream)
        return stream not in self.begun

    def _ends_here(self, pack: NavigationPack) -> bool:
        """Whether nothing of the cell can come any more: another clock begins, or its time is long over."""
        assert self.expected is not None
        past = pack.start_clock + self.offset - self.expected
        return not -CLOCK_HZ < past < LONGEST_LAP_S * CLOCK_HZ

    def _belongs(self, data: bytearray, at: int) -> bool:
        """Whether a sector behind the cell, or at the start of one whose data do not follow, is the cell's own.

        Sound and subtitles are judged by their time stamps. A frame of sound that is cut by the border is completed
        on one side and left out on the other.
        """
        packet = at + 14 + (data[at + 13] & 7)
        stream = stream_of(data, packet)
        if stream is None:
            return not self.lapping
        stamp = presentation_stamp(data, packet)
        if self.lapping:
            if self.over or stream in self.clipped or self.expected is None:
                return False
            if stamp is None:
                return True
            behind = stamp + self.offset - self.expected
            if behind >= 0:
                self.clipped.add(stream)
                return keep_tail(data, at, packet)
            return behind > -LONGEST_LAP_S * CLOCK_HZ
        if stream in self.clipped:
            return True
        if stamp is None or stamp < self.starts - EARLY_TICKS:
            return False
        self.clipped.add(stream)
        drop_tail(data, at, packet)
        return True

    def _place(self, start_clock: int) -> None:
        """Choose the offset for a cell that starts at ``start_clock`` in its own time."""
        if self.expected is None:
            self.origin = start_clock - round(self.ahead_s * CLOCK_HZ)
            return
        by_table = self.origin + round(self.ahead_s * CLOCK_HZ)
        # the end of the last unit is exact; after a damaged stretch only the table still knows
        trusted = abs(self.expected - by_table) <= TABLE_TRUST_S * CLOCK_HZ
        self.offset = (self.expected if trusted else by_table) - start_clock


def _shift_sector(data: bytearray, at: int, offset: int) -> None:
    end = at + SECTOR_BYTES
    packet = at + 14 + (data[at + 13] & 7)
    while packet + 9 <= end and data[packet : packet + 3] == b"\x00\x00\x01":
        if data[packet + 3] in STAMPED_IDS:
            shift_packet(data, packet, end, offset)
        packet += 6 + int.from_bytes(data[packet + 4 : packet + 6])
