"""What a few packets of a Blu-ray clip tell: whether it is scrambled, which streams it has, when it starts.

Source: ISO/IEC 13818-1, 2.4.3; Blu-ray puts a four-byte arrival time before each packet.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field

M2TS_BYTES, TS_BYTES, SYNC = 192, 188, 0x47
ALIGNED_UNIT_BYTES = 32 * M2TS_BYTES
"""Scrambled clips are so in units of 32 packets, of which only the first 16 bytes stay clear."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipFacts:
    """Facts counted over sampled packets; add two samples with ``+``. Time stamps are in ticks of 90 kHz.

    ``scrambled`` counts packets with scrambling bits, and samples of which only each unit's first packet is in step.
    ``payload_bytes`` is what each packet id carried, out of ``read_bytes``.
    """

    packets: int = 0
    read_bytes: int = 0
    payload_bytes: Mapping[int, int] = field(default_factory=dict)
    scrambled: int = 0
    packet_ids: frozenset[int] = frozenset()
    first_pts: int | None = None
    last_pts: int | None = None

    def __add__(self, other: ClipFacts) -> ClipFacts:
        return ClipFacts(
            packets=self.packets + other.packets,
            read_bytes=self.read_bytes + other.read_bytes,
            payload_bytes=Counter(self.payload_bytes) + Counter(other.payload_bytes),
            scrambled=self.scrambled + other.scrambled,
            packet_ids=self.packet_ids | other.packet_ids,
            first_pts=self.first_pts if self.first_pts is not None else other.first_pts,
            last_pts=other.last_pts if other.last_pts is not None else self.last_pts,
        )

    @property
    def is_scrambled(self) -> bool:
        return self.scrambled > 0

    @property
    def is_empty(self) -> bool:
        return self.packets == 0


def sample_clip(data: bytes) -> ClipFacts:
    """Read the facts out of whole packets, starting with one."""
    packets = out_of_step = scrambled = 0
    seen: Counter[int] = Counter()
    first: int | None = None
    last: int | None = None
    for at in range(0, len(data) - M2TS_BYTES + 1, M2TS_BYTES):
        if data[at + 4] != SYNC:
            out_of_step += 1
            continue
        packets += 1
        seen[(data[at + 5] & 0x1F) << 8 | data[at + 6]] += payload_bytes(data, at + 4)
        scrambled += bool(data[at + 7] >> 6)
        pts = picture_pts(data, at + 4)
        if pts is not None:
            first = pts if first is None else min(first, pts)
            last = pts if last is None else max(last, pts)
    # only the first packet of each unit in step, but that regularly: zeros and noise look different
    by_units = out_of_step > packets * 4 and packets * 40 >= packets + out_of_step
    return ClipFacts(
        packets=packets,
        read_bytes=len(data),
        payload_bytes=seen,
        scrambled=scrambled + by_units,
        packet_ids=frozenset(seen),
        first_pts=first,
        last_pts=last,
    )


def payload_bytes(data: bytes, at: int) -> int:
    """How many bytes of its stream the transport packet at ``at`` carries (2.4.3.2)."""
    said = data[at + 3] >> 4 & 3
    if not said & 1:
        return 0
    return max(0, TS_BYTES - 4 - (1 + data[at + 4] if said & 2 else 0))


def payload_start(data: bytes | bytearray, at: int) -> int | None:
    """Where a PES packet starts in the transport packet at ``at``; ``None`` where none does."""
    if not data[at + 1] & 0x40 or not data[at + 3] & 0x10:
        return None
    start = at + 4 + (1 + data[at + 4] if data[at + 3] & 0x20 else 0)
    return start if start + 14 <= at + TS_BYTES and data[start : start + 3] == b"\x00\x00\x01" else None


def read_pts(data: bytes | bytearray, at: int) -> int:
    """The five-byte time stamp at ``at``."""
    high, middle = data[at] >> 1 & 7, data[at + 1] << 7 | data[at + 2] >> 1
    return high << 30 | middle << 15 | data[at + 3] << 7 | data[at + 4] >> 1


def packet_pts(data: bytes | bytearray, packet: int) -> int | None:
    """The presentation time stamp of the PES packet at ``packet``; ``None`` where it has none."""
    has_one = data[packet + 6] >> 6 == 2 and data[packet + 7] & 0x80
    return read_pts(data, packet + 9) if has_one else None


def picture_pts(data: bytes, at: int) -> int | None:
    """The presentation time stamp of a picture that starts in the transport packet at ``at``."""
    packet = payload_start(data, at)
    is_picture = packet is not None and (data[packet + 3] >> 4 == 0xE or data[packet + 3] == 0xFD)
    packet_id = (data[at + 1] & 0x1F) << 8 | data[at + 2]
    # audio in private streams shares 0xfd with VC-1; pictures have the lower packet ids
    return packet_pts(data, packet) if packet is not None and is_picture and packet_id < 0x1100 else None
