"""Blu-ray clip information (``CLIPINF/*.clpi``), as values.

Source of the layout: System Description Blu-ray Disc Read-Only Format, part 3-1 (SequenceInfo, ProgramInfo, CPI with
its EP_map). Numbers are big-endian; times count at 45 kHz, places in source packets of 192 bytes.
"""

from __future__ import annotations

import bisect
from dataclasses import dataclass

from construct import (
    Array,
    BitsInteger,
    BitStruct,
    Bytes,
    Const,
    Container,
    Int8ub,
    Int16ub,
    Int32ub,
    Padding,
    Pointer,
    Prefixed,
    Struct,
    this,
)
from construct import GreedyBytes as Rest

from ..tables import broken_tables
from .mpls import ListedStream, listed_stream

MOST_ENTRIES = 400_000

_PROGRAM_STREAM = Struct("packet_id" / Int16ub, "attributes" / Prefixed(Int8ub, Rest))
_PROGRAM = Struct(
    Padding(4), Padding(2), "count" / Int8ub, Padding(1), "streams" / Array(this.count, _PROGRAM_STREAM)
)  # fmt: skip
_PROGRAMS = Struct("length" / Int32ub, Padding(1), "count" / Int8ub, "programs" / Array(this.count, _PROGRAM))
_STC_SEQUENCE = Struct(Padding(2), "first_packet" / Int32ub, "start" / Int32ub, "end" / Int32ub)
_ARRIVAL = Struct(Padding(4), "count" / Int8ub, Padding(1), "stc_sequences" / Array(this.count, _STC_SEQUENCE))
_SEQUENCES = Struct("length" / Int32ub, Padding(1), "count" / Int8ub, "arrivals" / Array(this.count, _ARRIVAL))
_ENTRY_STREAM = Struct(
    "packet_id" / Int16ub,
    "counts" / BitStruct(Padding(10), "kind" / BitsInteger(4), "coarse" / BitsInteger(16), "fine" / BitsInteger(18)),
    "at" / Int32ub,
)
_ENTRY_MAP = Struct(Padding(1), "count" / Int8ub, "streams" / Array(this.count, _ENTRY_STREAM))
_COARSE = BitStruct("fine" / BitsInteger(18), "time" / BitsInteger(14), "packet" / BitsInteger(32))
_FINE = BitStruct(Padding(4), "time" / BitsInteger(11), "packet" / BitsInteger(17))
_HEAD = Struct(
    "magic" / Const(b"HDMV"),
    "version" / Bytes(4),
    "sequences_at" / Int32ub,
    "programs_at" / Int32ub,
    "entries_at" / Int32ub,
    "sequences" / Pointer(this.sequences_at, _SEQUENCES),
    "programs" / Pointer(this.programs_at, _PROGRAMS),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipInfo:
    """What is known of a clip: its streams, and its entry points as times (45 kHz) with their source packets."""

    streams: tuple[ListedStream, ...]
    start: int
    end: int
    entry_times: tuple[int, ...]
    entry_packets: tuple[int, ...]

    def nearest_entry(self, time: int) -> int | None:
        """The position of the entry point nearest to a time; ``None`` where there are none."""
        times = self.entry_times
        if not times:
            return None
        at = bisect.bisect_left(times, time)
        near = [place for place in (at - 1, at) if 0 <= place < len(times)]
        return min(near, key=lambda place: abs(times[place] - time))


def read_clip_info(data: bytes) -> ClipInfo:
    """Read a ``.clpi`` file. Raises ``TablesBroken``."""
    with broken_tables("the clip information"):
        head = _HEAD.parse(data)
        stc_sequences = [sequence for arrival in head.sequences.arrivals for sequence in arrival.stc_sequences]
        times, packets = _entries(data, head.entries_at) if head.entries_at else ((), ())
        return ClipInfo(
            streams=tuple(
                listed_stream(stream.packet_id, stream.attributes)
                for program in head.programs.programs
                for stream in program.streams
            ),
            start=stc_sequences[0].start if stc_sequences else 0,
            end=stc_sequences[-1].end if stc_sequences else 0,
            entry_times=times,
            entry_packets=packets,
        )


def _entries(data: bytes, at: int) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """The entry points of the first stream that has any: a coarse table with a fine one behind it."""
    if int.from_bytes(data[at : at + 4]) < 8:
        return (), ()
    base = at + 6  # length, and the type of the table
    table = _ENTRY_MAP.parse(data[base:])
    for stream in table.streams:
        coarse_count, fine_count = stream.counts.coarse, stream.counts.fine
        if not 0 < fine_count <= MOST_ENTRIES:
            continue
        start = base + stream.at
        fine_at = start + int.from_bytes(data[start : start + 4])
        coarse = Array(coarse_count, _COARSE).parse(data[start + 4 :])
        fine = Array(fine_count, _FINE).parse(data[fine_at:])
        return _joined(coarse, fine)
    return (), ()


def _joined(coarse: list[Container], fine: list[Container]) -> tuple[tuple[int, ...], tuple[int, ...]]:
    times, packets = [], []
    ends = [entry.fine for entry in coarse[1:]] + [len(fine)]
    for entry, end in zip(coarse, ends, strict=True):
        for low in fine[entry.fine : end]:
            times.append(((entry.time & ~1) << 18) + (low.time << 8))
            packets.append((entry.packet & ~0x1FFFF) + low.packet)
    order = sorted(range(len(times)), key=lambda at: (times[at], packets[at]))
    return tuple(times[at] for at in order), tuple(packets[at] for at in order)
