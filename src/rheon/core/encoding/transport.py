"""The transport streams in which the engine hands pictures over: the first one, the last time stamp, bytes put before.

Source of the layouts: ISO/IEC 13818-1, 2.4.3.2 (transport packets) and 2.4.3.6 (PES packets).
"""

from __future__ import annotations

import struct
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np

PACKET_BYTES, HEADER_BYTES, SYNC = 188, 4, 0x47
PICTURE_ID = 0x100
"""The packet id that the engine's muxer gives the first stream."""
STARTS, ADAPTED, PAYLOAD = 0x40, 0x20, 0x10
DISCONTINUITY = 0x80
PES_PREFIX, PES_FIXED_BYTES = b"\0\0\1", 9


@dataclass(frozen=True, slots=True, kw_only=True)
class FirstPicture:
    """The first picture of a stream: its bytes, and when it is shown and decoded, in ticks of 90 kHz."""

    data: bytes
    pts: int
    dts: int


def first_picture(stream: bytes) -> FirstPicture | None:
    """``None`` where there is none."""
    payload = bytearray()
    for at in range(0, len(stream) - PACKET_BYTES + 1, PACKET_BYTES):
        packet = stream[at : at + PACKET_BYTES]
        if _packet_id(packet) != PICTURE_ID:
            continue
        if packet[1] & STARTS and payload:
            break
        if packet[1] & STARTS or payload:
            payload += packet[_payload_at(packet) :]
    if not payload.startswith(PES_PREFIX):
        return None
    pts, dts = _stamps(payload)
    return FirstPicture(data=bytes(payload[PES_FIXED_BYTES + payload[8] :]), pts=pts, dts=dts)


def with_headers(chunks: Iterable[bytes], headers: bytes) -> Iterator[bytes]:
    """The stream with ``headers`` before its first picture, of which a reader takes them for the beginning."""
    waiting = b"" if headers else None
    for chunk in chunks:
        if waiting is None:
            yield chunk
            continue
        waiting += chunk
        at = _first_start(waiting)
        if at is not None:
            yield waiting[:at] + _packets(headers, waiting[at : at + PACKET_BYTES]) + waiting[at:]
            waiting = None
    if waiting:
        yield waiting


def count_pictures(chunk: bytes) -> int:
    """How many pictures begin in whole packets."""
    packets = np.frombuffer(chunk, np.uint8)[: len(chunk) // PACKET_BYTES * PACKET_BYTES].reshape(-1, PACKET_BYTES)
    ids = (packets[:, 1].astype(np.uint16) & 0x1F) << 8 | packets[:, 2]
    return int(np.count_nonzero((ids == PICTURE_ID) & (packets[:, 1] & STARTS > 0)))


def _first_start(stream: bytes) -> int | None:
    for at in range(0, len(stream) - PACKET_BYTES + 1, PACKET_BYTES):
        packet = stream[at : at + PACKET_BYTES]
        if packet[1] & STARTS and _packet_id(packet) == PICTURE_ID:
            return at
    return None


def _packets(headers: bytes, first: bytes) -> bytes:
    """PES packets that hold headers, with the time stamps of the packet before which they come."""
    pes = first[_payload_at(first) :]
    fixed = PES_PREFIX + pes[3:4] + b"\0\0" + pes[6 : PES_FIXED_BYTES + pes[8]]
    room = PACKET_BYTES - HEADER_BYTES - 2
    whole = fixed + headers
    pieces = [whole[at : at + room] for at in range(0, len(whole), room)]
    counter = first[3] & 0x0F
    made = b""
    for place, piece in enumerate(pieces):
        # stuffing fills what is left, and says that the count begins anew
        stuffing = room - len(piece)
        flags = DISCONTINUITY if place == 0 else 0
        count = (counter - len(pieces) + place) % 16
        head = struct.pack(">BHB", SYNC, PICTURE_ID | (STARTS << 8 if place == 0 else 0), ADAPTED | PAYLOAD | count)
        made += head + bytes([1 + stuffing, flags]) + b"\xff" * stuffing + piece
    return made


def _packet_id(packet: bytes) -> int:
    return (packet[1] & 0x1F) << 8 | packet[2]


def _payload_at(packet: bytes) -> int:
    return HEADER_BYTES + (1 + packet[4] if packet[3] & ADAPTED else 0)


def _stamps(pes: bytes | bytearray) -> tuple[int, int]:
    pts = _stamp(pes[9:14])
    return pts, _stamp(pes[14:19]) if pes[7] & 0x40 else pts


def _stamp(field: bytes | bytearray) -> int:
    high, middle, low = field[0] >> 1 & 7, int.from_bytes(field[1:3]) >> 1, int.from_bytes(field[3:5]) >> 1
    return high << 30 | middle << 15 | low
