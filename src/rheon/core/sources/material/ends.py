"""When each stream of a disc title ends, by the last time stamps in its data."""

from __future__ import annotations

from ...media import CLOCK_HZ, SECTOR_BYTES, CellData, Extent, StreamKind
from ..bluray.transport_stream import M2TS_BYTES, payload_start, presentation_stamp
from ..images.disc_files import pieces
from .feed import feed_extents
from .sound_packets import packet_at, stream_of
from .transport_timeline import transport_packets

TAIL_BYTES = 4 << 20
LONGEST_S = 60.0


def stream_ends(data: CellData) -> dict[int, float]:
    """By stream id, the second of the title at which the last packet begins; streams without any there are left out.

    Raises ``OSError`` where the data can't be read.
    """
    last = data.cells[-1] if data.cells else None
    if last is None or last.clock is None:
        return {}
    size = last.size_bytes
    grain = M2TS_BYTES if data.stream is StreamKind.TRANSPORT else SECTOR_BYTES
    tail = list(pieces(last.extents, max(0, size - TAIL_BYTES) // grain * grain, size))
    stamps = _stamps(data.stream, [*tail, *last.lap])
    return {
        stream: round(last.start_s - data.skip_s + (stamp - last.clock) / CLOCK_HZ, 3)
        for stream, stamp in stamps.items()
        if 0 <= stamp - last.clock <= (last.duration_s + LONGEST_S) * CLOCK_HZ
    }


def _stamps(kind: StreamKind, extents: list[Extent]) -> dict[int, int]:
    found: dict[int, int] = {}
    if kind is StreamKind.TRANSPORT:
        for packets in transport_packets(feed_extents(extents)):
            for at in range(4, len(packets), M2TS_BYTES):
                packet = payload_start(packets, at)
                stamp = presentation_stamp(packets, packet) if packet is not None else None
                if stamp is not None:
                    stream = (packets[at + 1] & 0x1F) << 8 | packets[at + 2]
                    found[stream] = max(stamp, found.get(stream, 0))
        return found
    for chunk in feed_extents(extents):
        for at in range(0, len(chunk) - SECTOR_BYTES + 1, SECTOR_BYTES):
            packet = packet_at(chunk, at)
            named = stream_of(chunk, packet)
            stamp = presentation_stamp(chunk, packet) if named is not None else None
            if named is not None and stamp is not None:
                found[named] = max(stamp, found.get(named, 0))
    return found
