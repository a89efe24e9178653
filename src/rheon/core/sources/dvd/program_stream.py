"""What a few sectors of a program stream tell: scrambling, and how the picture was coded.

Sources: ISO/IEC 13818-1 (pack and PES headers), ISO/IEC 13818-2 (sequence and picture headers).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from ...media import SECTOR_BYTES, Scan

PACK_START = b"\x00\x00\x01\xba"
VIDEO_ID = 0xE0
PRIVATE_ID = 0xBD
PAYLOAD_IDS = frozenset({PRIVATE_ID, *range(0xC0, 0xF0)})
FRAME_RATES = {
    1: Fraction(24000, 1001), 2: Fraction(24), 3: Fraction(25), 4: Fraction(30000, 1001),
    5: Fraction(30), 6: Fraction(50), 7: Fraction(60000, 1001), 8: Fraction(60),
}  # fmt: skip
MIXED_SHARE = 0.1
"""From such a share of the pictures on, film with repeated fields and pictures of two fields are both meant."""
DISPLAY_ASPECTS = {2: Fraction(4, 3), 3: Fraction(16, 9), 4: Fraction(221, 100)}


@dataclass(frozen=True, slots=True, kw_only=True)
class SequenceFacts:
    """What a sequence header says: stored size, frame rate, display aspect, whether all frames are progressive."""

    codec: str
    width: int
    height: int
    frame_rate: Fraction
    display_aspect: Fraction | None
    progressive: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SampleFacts:
    """Facts counted over sampled sectors; add two samples with ``+``.

    ``streams`` are the ids met, as the engine gives them: a private stream's own number, else 0x100 and the packet's.
    """

    packs: int = 0
    streams: frozenset[int] = frozenset()
    scrambled_packs: int = 0
    pictures: int = 0
    progressive_pictures: int = 0
    repeated_fields: int = 0
    top_first: int = 0
    sequence: SequenceFacts | None = None

    def __add__(self, other: SampleFacts) -> SampleFacts:
        return SampleFacts(
            packs=self.packs + other.packs,
            streams=self.streams | other.streams,
            scrambled_packs=self.scrambled_packs + other.scrambled_packs,
            pictures=self.pictures + other.pictures,
            progressive_pictures=self.progressive_pictures + other.progressive_pictures,
            repeated_fields=self.repeated_fields + other.repeated_fields,
            top_first=self.top_first + other.top_first,
            sequence=self.sequence or other.sequence,
        )

    @property
    def scrambled(self) -> bool:
        return self.scrambled_packs > 0

    @property
    def scan(self) -> Scan:
        """By the flags: film with repeated fields is telecined, field-coded frames are interlaced, both mixed."""
        if not self.pictures:
            return Scan.UNKNOWN
        if self.sequence and self.sequence.progressive:
            return Scan.PROGRESSIVE
        film, in_fields = 2 * self.repeated_fields, self.pictures - self.progressive_pictures
        if min(film, in_fields) >= MIXED_SHARE * self.pictures:
            return Scan.MIXED
        if self.progressive_pictures * 2 < self.pictures:
            return Scan.INTERLACED
        return Scan.TELECINED if self.repeated_fields * 4 >= self.pictures else Scan.PROGRESSIVE


def sample(data: bytes) -> SampleFacts:
    """Read the facts out of whole sectors; sectors that are no packs are passed over."""
    packs = scrambled = 0
    picture = bytearray()
    streams: set[int] = set()
    for start in range(0, len(data) - SECTOR_BYTES + 1, SECTOR_BYTES):
        sector = data[start : start + SECTOR_BYTES]
        if not sector.startswith(PACK_START):
            continue
        packs += 1
        for stream_id, flags, payload in _packets(sector):
            if flags >> 4 & 3:
                scrambled += 1
            elif stream_id == VIDEO_ID:
                picture += payload
            if stream_id != PRIVATE_ID:
                streams.add(0x100 | stream_id)
            elif payload:
                streams.add(payload[0])
    facts = _picture_facts(bytes(picture))
    return facts + SampleFacts(packs=packs, streams=frozenset(streams), scrambled_packs=scrambled)


def _packets(sector: bytes) -> Iterator[tuple[int, int, bytes]]:
    """The PES packets of one sector that carry sound, picture or words: (stream id, flags, payload)."""
    at = 14 + (sector[13] & 7)
    while at + 9 <= len(sector) and sector[at : at + 3] == b"\x00\x00\x01":
        stream_id = sector[at + 3]
        length = int.from_bytes(sector[at + 4 : at + 6])
        end = at + 6 + length
        if stream_id in PAYLOAD_IDS:
            # MPEG-1 packets have no flags byte: its top bits are not "10"
            flags = sector[at + 6] if sector[at + 6] >> 6 == 2 else 0
            header = 9 + sector[at + 8] if flags else 7
            yield stream_id, flags, sector[at + header : end]
        at = end


def _picture_facts(data: bytes) -> SampleFacts:
    pictures = progressive = repeated = top = 0
    sequence = None
    at = data.find(b"\x00\x00\x01")
    while 0 <= at < len(data) - 12:
        code = data[at + 3]
        if code == 0xB3 and sequence is None:
            sequence = _sequence(data, at)
        elif code == 0xB5 and data[at + 4] >> 4 == 8:
            pictures += 1
            progressive += data[at + 8] >> 7
            top += data[at + 7] >> 7
            repeated += data[at + 7] >> 1 & 1
        at = data.find(b"\x00\x00\x01", at + 3)
    return SampleFacts(
        pictures=pictures,
        progressive_pictures=progressive,
        repeated_fields=repeated,
        top_first=top,
        sequence=sequence,
    )


def _sequence(data: bytes, at: int) -> SequenceFacts | None:
    width = data[at + 4] << 4 | data[at + 5] >> 4
    height = (data[at + 5] & 15) << 8 | data[at + 6]
    rate = FRAME_RATES.get(data[at + 7] & 15)
    if not width or not height or rate is None:
        return None
    extension = data.find(b"\x00\x00\x01\xb5", at, at + 160)
    is_mpeg2 = extension >= 0 and extension + 6 < len(data) and data[extension + 4] >> 4 == 1
    return SequenceFacts(
        codec="mpeg2video" if is_mpeg2 else "mpeg1video",
        width=width,
        height=height,
        frame_rate=rate,
        display_aspect=DISPLAY_ASPECTS.get(data[at + 7] >> 4),
        progressive=bool(data[extension + 5] >> 3 & 1) if is_mpeg2 else True,
    )
