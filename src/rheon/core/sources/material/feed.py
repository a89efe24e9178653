"""A disc title's bytes in playing order, as the engine gets them on its standard input."""

from __future__ import annotations

import errno
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import BinaryIO

from ...media import SECTOR_BYTES, Cell, CellData, Extent, StreamKind
from ...media.cell_seams import touches
from ...system import open_inside
from ..bluray.transport_stream import TS_BYTES
from .gates import FromStart, Gate, NoEarlyLines, OnlyPictures
from .sound_packets import PACK_HEADER_BYTES, packet_at, stream_of
from .timeline import ProgramTimeline
from .transport_timeline import FIRST_TABLE_IDS, TransportTimeline, stretches, transport_packets

CHUNK_BYTES = 1 << 20
LOOK_AHEAD_BYTES = 512 * SECTOR_BYTES
LAP_STEP_BYTES = 128 * SECTOR_BYTES
VIDEO_START = b"\x00\x00\x01\xe0"
# a subpicture unit that shows nothing: size 12, control sequence at 4 that only ends itself
EMPTY_UNIT = bytes.fromhex("000c 0004 0000 0004 ff ff ff ff")


def feed_extents(extents: Sequence[Extent]) -> Iterator[bytes]:
    """The bytes of the extents, in pieces; sectors that the medium can't give are left out.

    Raises ``OSError`` where a file is gone or ends early.
    """
    for extent in extents:
        with open_inside(extent.path, buffering=0) as handle:
            handle.seek(extent.offset_bytes)
            left = extent.length_bytes
            while left:
                chunk, passed = _read(handle, min(CHUNK_BYTES, left))
                if not passed:
                    raise OSError(None, f"{Path(extent.path).name} ends early")
                left -= passed
                yield chunk


def _read(handle: BinaryIO, length: int) -> tuple[bytes, int]:
    """(what could be read, how far that went): a read error costs its sectors, not the rest."""
    at = handle.tell()
    try:
        chunk = handle.read(length)
    except OSError as error:
        if error.errno != errno.EIO:
            raise
    else:
        return chunk, len(chunk)
    kept = []
    for start in range(at, at + length, SECTOR_BYTES):
        try:
            handle.seek(start)
            kept.append(handle.read(min(SECTOR_BYTES, at + length - start)))
        except OSError as error:
            if error.errno != errno.EIO:
                raise
    handle.seek(at + length)
    return b"".join(kept), length


def feed_title(
    data: CellData,
    subpictures: Sequence[int] = (),
    cores: frozenset[int] = frozenset(),
    *,
    leads: bool = False,
    part: bool = False,
) -> Iterator[bytes]:
    """A whole title on the time line of its first cell.

    ``subpictures`` are the ids of DVD subtitle streams to declare at the front: the engine only knows of a stream once
    it has met a packet of it, and the first subtitle may come after minutes. ``cores`` are the packet ids of Blu-ray
    TrueHD tracks of which only the AC-3 core is wanted.

    Before the first moment come the pictures that the first ones refer to, and after the last one the sound that lies
    behind it: whoever reads cuts by time stamps. Between cells whose data do not follow each other nothing is doubled.
    Lines of ``subpictures`` that began before the first moment are left out. With ``leads`` the pictures that a
    stretch's first ones refer to come before each, at times that are over: for whoever decodes and drops them.
    Of a ``part`` of a Blu-ray title, sound that begins a little before it passes too.
    """
    if data.stream is StreamKind.TRANSPORT:
        yield from _transport(data, cores, part=part)
        return
    if subpictures and data.extents:
        yield _declaration(data.extents[0], subpictures)
    timeline = ProgramTimeline()
    before: Cell | None = None
    for cell in data.cells:
        if before is None:
            start = data.start_pts or 0
            gate: Gate | None = NoEarlyLines(streams=frozenset(subpictures), start=start) if subpictures else None
            yield from _lead(timeline, cell, gate)
        elif touches(before, cell):
            gate = None
        else:
            yield from _lap(timeline, before)
            gate = FromStart(start=cell.pts or 0)
            if leads:
                yield from _lead(timeline, cell, OnlyPictures())
        timeline.begin(cell, gate)
        yield from _passed(timeline, cell.extents)
        before = cell
    if before is not None:
        yield from _lap(timeline, before)


def _declaration(first: Extent, subpictures: Sequence[int]) -> bytes:
    head = replace(first, length_bytes=min(first.length_bytes, LOOK_AHEAD_BYTES))
    return declare(b"".join(feed_extents([head])), subpictures)


def _passed(timeline: ProgramTimeline, extents: Sequence[Extent]) -> Iterator[bytes]:
    for chunk in feed_extents(extents):
        if passed := timeline.pass_on(chunk):
            yield passed


def _lead(timeline: ProgramTimeline, cell: Cell, gate: Gate | None) -> Iterator[bytes]:
    timeline.before(cell, gate)
    yield from _passed(timeline, cell.lead)


def _lap(timeline: ProgramTimeline, cell: Cell) -> Iterator[bytes]:
    """The sound that lies behind a cell, until its time is over."""
    gate = timeline.behind()
    for extent in cell.lap if gate else ():
        for at in range(0, extent.length_bytes, LAP_STEP_BYTES):
            length = min(LAP_STEP_BYTES, extent.length_bytes - at)
            yield from _passed(timeline, [replace(extent, offset_bytes=extent.offset_bytes + at, length_bytes=length)])
            if gate and gate.over:
                return


def subtitle_packets(data: CellData, stream_id: int) -> Iterator[bytes]:
    """Only a subtitle stream's packets of a title, with what the engine needs to know them by."""
    if data.stream is StreamKind.TRANSPORT:
        for packets in _transport(data, frozenset()):
            yield only_packets(packets, stream_id)
        return
    for chunk in feed_title(data):
        if kept := only_sectors(chunk, stream_id):
            yield kept


def only_sectors(chunk: bytes, stream_id: int) -> bytes:
    """The sectors whose packet is of a private substream."""
    return b"".join(
        chunk[at : at + SECTOR_BYTES]
        for at in range(0, len(chunk) - SECTOR_BYTES + 1, SECTOR_BYTES)
        if stream_of(chunk, packet_at(chunk, at)) == stream_id
    )


def only_packets(packets: bytes, packet_id: int) -> bytes:
    """The transport packets with one id, and the tables."""
    kept = bytearray()
    for at in range(0, len(packets), TS_BYTES):
        found = (packets[at + 1] & 0x1F) << 8 | packets[at + 2]
        if found == packet_id or found < FIRST_TABLE_IDS:
            kept += packets[at : at + TS_BYTES]
    return bytes(kept)


def _transport(data: CellData, cores: frozenset[int], *, part: bool = False) -> Iterator[bytes]:
    """Clips one after the other; behind each stretch its last sound is looked for until every stream has ended.

    Of a ``part`` of a title, sound that began before it passes for whoever cuts.
    """
    for number, stretch in enumerate(stretches(data.cells)):
        line = TransportTimeline(stretch=stretch, cores=cores, first=number == 0 and part)
        for packets in transport_packets(feed_extents(stretch.extents)):
            if passed := line.pass_on(packets):
                yield passed
        line.lapping = True
        for packets in transport_packets(feed_extents(stretch.lap)):
            if passed := line.pass_on(packets):
                yield passed
            if line.is_over:
                break


def declare(head: bytes, subpictures: Sequence[int]) -> bytes:
    """Sectors that hold one empty unit for each subpicture stream, at the clock and time stamp of ``head``'s start."""
    pts = _first_pts(head)
    return b"".join(_sector(head[:PACK_HEADER_BYTES], stream, pts) for stream in subpictures) if pts else b""


def _first_pts(head: bytes) -> bytes | None:
    """The five bytes of the first video packet's presentation time stamp (ISO/IEC 13818-1, 2.4.3.7)."""
    at = head.find(VIDEO_START)
    while at >= 0:
        if len(head) > at + 14 and head[at + 7] & 0x80:
            return bytes([0x21 | head[at + 9] & 0x0E]) + head[at + 10 : at + 14]
        at = head.find(VIDEO_START, at + 4)
    return None


def _sector(pack: bytes, stream: int, pts: bytes) -> bytes:
    body = bytes([0x81, 0x80, len(pts)]) + pts + bytes([stream]) + EMPTY_UNIT
    packet = b"\x00\x00\x01\xbd" + len(body).to_bytes(2) + body
    head = pack[:13] + bytes([pack[13] & 0xF8])
    padding = SECTOR_BYTES - len(head) - len(packet) - 6
    return head + packet + b"\x00\x00\x01\xbe" + padding.to_bytes(2) + b"\xff" * padding
