"""When each stream of a disc title ends, by the last time stamps in its data."""

from __future__ import annotations

from ...media import PTS_HZ, SECTOR_BYTES, CellData, Extent, StreamKind
from ..bluray.transport_stream import M2TS_BYTES, packet_pts, payload_start
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
    if last is None or last.pts is None:
        return {}
    size = last.size_bytes
    grain = M2TS_BYTES if data.stream is StreamKind.TRANSPORT else SECTOR_BYTES
    tail = list(pieces(last.extents, max(0, size - TAIL_BYTES) // grain * grain, size))
    times = _last_pts(data.stream, [*tail, *last.lap])
    return {
        stream: round(last.start_s - data.skip_s + (pts - last.pts) / PTS_HZ, 3)
        for stream, pts in times.items()
        if 0 <= pts - last.pts <= (last.duration_s + LONGEST_S) * PTS_HZ
    }


def _last_pts(kind: StreamKind, extents: list[Extent]) -> dict[int, int]:
    found: dict[int, int] = {}
    if kind is StreamKind.TRANSPORT:
        for packets in transport_packets(feed_extents(extents)):
            for at in range(4, len(packets), M2TS_BYTES):
                packet = payload_start(packets, at)
                pts = packet_pts(packets, packet) if packet is not None else None
                if pts is not None:
                    stream = (packets[at + 1] & 0x1F) << 8 | packets[at + 2]
                    found[stream] = max(pts, found.get(stream, 0))
        return found
    for chunk in feed_extents(extents):
        for at in range(0, len(chunk) - SECTOR_BYTES + 1, SECTOR_BYTES):
            packet = packet_at(chunk, at)
            named = stream_of(chunk, packet)
            pts = packet_pts(chunk, packet) if named is not None else None
            if named is not None and pts is not None:
                found[named] = max(pts, found.get(named, 0))
    return found
