"""Packets of sound and subtitles in a program stream: whose they are, and where a frame is cut by a packet's border.

Source of the layouts: ISO/IEC 13818-1, 2.4.3.7 (PES headers); DVD-Video, part 3 (private stream 1: after the
substream's id come the number of frames that begin in the packet and a pointer to the first of them).
"""

from __future__ import annotations

from ...media import SECTOR_BYTES

PRIVATE_1, PADDING = 0xBD, 0xBE
MPEG_SOUND = range(0xC0, 0xE0)
FRAMED = (*range(0x80, 0x90), *range(0xC0, 0xD0))
"""AC-3, DTS and E-AC-3 substreams, whose packets point at the first frame that begins in them."""
POINTER_BYTES = 4
LEAST_PADDING = 6
PACK_HEADER_BYTES = 14


def packet_at(data: bytes | bytearray, at: int) -> int:
    """Where the first packet of the pack that starts at ``at`` begins."""
    return at + PACK_HEADER_BYTES + (data[at + 13] & 7)


def stream_of(data: bytes | bytearray, packet: int) -> int | None:
    """The id of the sound or subtitle stream whose packet starts at ``packet``; ``None`` for anything else."""
    kind = data[packet + 3]
    if data[packet : packet + 3] != b"\x00\x00\x01":
        return None
    if kind == PRIVATE_1:
        return data[min(_payload(data, packet), len(data) - 1)]
    return kind if kind in MPEG_SOUND else None


def keep_tail(data: bytearray, at: int, packet: int) -> bool:
    """Leave of a sector's packet only the end of the frame that began before it; ``False`` where there is none."""
    border = _first_frame(data, packet)
    if border is None:
        return False
    start = _payload(data, packet)
    head = start + POINTER_BYTES if data[packet + 3] == PRIVATE_1 else start
    if border <= head:
        return False
    # no frame begins in what is left, so it has no time stamp and points nowhere
    flags = data[packet + 7]
    data[packet + 7] = flags & 0x3F
    header = packet + 9
    data[header : header + data[packet + 8]] = b"\xff" * data[packet + 8]
    if data[packet + 3] == PRIVATE_1:
        data[start + 1 : start + POINTER_BYTES] = bytes(3)
    _close(data, at, packet, border)
    return True


def drop_tail(data: bytearray, at: int, packet: int) -> None:
    """Take the end of a frame that began earlier out of a sector's packet, so that it starts with a whole frame."""
    border = _first_frame(data, packet)
    start = _payload(data, packet)
    head = start + POINTER_BYTES if data[packet + 3] == PRIVATE_1 else start
    if border is None or border <= head:
        return
    end = _end(data, at, packet)
    if data[packet + 3] == PRIVATE_1:
        data[start + 2 : start + POINTER_BYTES] = (1).to_bytes(2)
    data[head : head + end - border] = data[border:end]
    _close(data, at, packet, head + end - border)


def _payload(data: bytes | bytearray, packet: int) -> int:
    return packet + 9 + data[packet + 8]


def _end(data: bytes | bytearray, at: int, packet: int) -> int:
    return min(at + SECTOR_BYTES, packet + 6 + int.from_bytes(data[packet + 4 : packet + 6]))


def _first_frame(data: bytes | bytearray, packet: int) -> int | None:
    """Where the first frame that begins in a packet of sound does so; ``None`` where that is not known."""
    start = _payload(data, packet)
    end = packet + 6 + int.from_bytes(data[packet + 4 : packet + 6])
    if data[packet + 3] in MPEG_SOUND:
        return next((at for at in range(start, end - 1) if data[at] == 0xFF and data[at + 1] & 0xF6 == 0xF4), None)
    if data[start] not in FRAMED:
        return None
    border = start + POINTER_BYTES + int.from_bytes(data[start + 2 : start + POINTER_BYTES]) - 1
    return border if data[start + 1] and start + POINTER_BYTES <= border < end else None


def _close(data: bytearray, at: int, packet: int, end: int) -> None:
    """End a sector's packet at ``end`` and fill the sector up, with padding or with stuffing in the header."""
    left = at + SECTOR_BYTES - end
    if left >= LEAST_PADDING:
        data[packet + 4 : packet + 6] = (end - packet - 6).to_bytes(2)
        data[end : at + SECTOR_BYTES] = (
            b"\x00\x00\x01\xbe" + (left - LEAST_PADDING).to_bytes(2) + b"\xff" * (left - LEAST_PADDING)
        )
        return
    start = _payload(data, packet)
    body = bytes(data[start:end])
    data[packet + 8] += left
    data[start : at + SECTOR_BYTES] = b"\xff" * left + body
    data[packet + 4 : packet + 6] = (at + SECTOR_BYTES - packet - 6).to_bytes(2)
