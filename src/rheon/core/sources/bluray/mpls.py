"""Blu-ray playlists (``PLAYLIST/*.mpls``), as values.

Source of the layout: System Description Blu-ray Disc Read-Only Format, part 3-1 (PlayList, PlayItem, STN_table,
PlayListMark), as found by building folders and reading them back. Numbers are big-endian; times count at 45 kHz.
"""

from __future__ import annotations

from dataclasses import dataclass

from construct import (
    Array,
    Bytes,
    Const,
    Container,
    If,
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

TICKS = 45_000
ENTRY_MARK = 1
MOST_ITEMS = 2000

_STREAM = Struct("entry" / Prefixed(Int8ub, Rest), "attributes" / Prefixed(Int8ub, Rest))
_STREAM_TABLE = Struct(
    Padding(2),
    "video" / Int8ub,
    "audio" / Int8ub,
    "graphics" / Int8ub,
    "interactive" / Int8ub,
    Padding(3),
    Padding(5),
    "streams" / Array(this.video + this.audio + this.graphics, _STREAM),
)
_OTHER_ANGLE = Struct("clip" / Bytes(5), Padding(4), Padding(1))
_ANGLES = Struct("count" / Int8ub, Padding(1), "others" / Array(lambda c: max(0, c.count - 1), _OTHER_ANGLE))
_ITEM = Struct(
    "clip" / Bytes(5),
    "codec" / Bytes(4),
    "flags" / Int16ub,
    Padding(1),
    "in_time" / Int32ub,
    "out_time" / Int32ub,
    Padding(8),
    Padding(1),
    "still_mode" / Int8ub,
    "still_time" / Int16ub,
    "angles" / If(this.flags >> 4 & 1, _ANGLES),
    "table" / Prefixed(Int16ub, _STREAM_TABLE),
)
_PLAYLIST = Struct(
    "length" / Int32ub,
    Padding(2),
    "item_count" / Int16ub,
    "path_count" / Int16ub,
    "rows" / Array(lambda c: min(c.item_count, MOST_ITEMS), Prefixed(Int16ub, _ITEM)),
)
_MARK = Struct(Padding(1), "kind" / Int8ub, "item" / Int16ub, "time" / Int32ub, Padding(2), Padding(4))
_MARKS = Struct("length" / Int32ub, "count" / Int16ub, "marks" / Array(this.count, _MARK))
_HEAD = Struct(
    "magic" / Const(b"MPLS"),
    "version" / Bytes(4),
    "playlist_at" / Int32ub,
    "marks_at" / Int32ub,
    "playlist" / Pointer(this.playlist_at, _PLAYLIST),
    "marks" / If(this.marks_at > 0, Pointer(this.marks_at, _MARKS)),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedStream:
    """One row of a stream table: packet id, stream coding type, format codes, and three-letter language."""

    packet_id: int
    coding: int
    format: int
    rate: int
    language: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayItem:
    """A stretch of a clip. ``clips`` are its file stems, one for each angle; times in ticks of 45 kHz.

    ``still_s`` is how long its last picture stands: 0 for not at all, 255 until somebody goes on.
    """

    clips: tuple[str, ...]
    in_time: int
    out_time: int
    still_s: int
    video: tuple[ListedStream, ...]
    audio: tuple[ListedStream, ...]
    graphics: tuple[ListedStream, ...]

    @property
    def duration_s(self) -> float:
        return (self.out_time - self.in_time) / TICKS


@dataclass(frozen=True, slots=True, kw_only=True)
class Playlist:
    """A playlist: its items, and its chapters as (item, time in that item's clip)."""

    items: tuple[PlayItem, ...]
    marks: tuple[tuple[int, int], ...]


def read_playlist(data: bytes) -> Playlist:
    """Read an ``.mpls`` file. Raises ``TablesBroken``."""
    with broken_tables("the playlist"):
        head = _HEAD.parse(data)
        items = tuple(_item(entry) for entry in head.playlist.rows)
        marks = head.marks.marks if head.marks else []
        return Playlist(
            items=items,
            marks=tuple((mark.item, mark.time) for mark in marks if mark.kind == ENTRY_MARK and mark.item < len(items)),
        )


def _item(entry: Container) -> PlayItem:
    if entry.out_time < entry.in_time:
        raise ValueError("item ends before it starts")
    others = [other.clip for other in entry.angles.others] if entry.angles else []
    table = entry.table
    streams = [_stream(stream) for stream in table.streams]
    first_sound, first_words = table.video, table.video + table.audio
    return PlayItem(
        clips=tuple(clip.decode("ascii") for clip in (entry.clip, *others)),
        in_time=entry.in_time,
        out_time=entry.out_time,
        still_s={1: min(254, entry.still_time), 2: 255}.get(entry.still_mode, 0),
        video=tuple(streams[:first_sound]),
        audio=tuple(streams[first_sound:first_words]),
        graphics=tuple(streams[first_words:]),
    )


def _stream(raw: Container) -> ListedStream:
    entry, attributes = raw.entry, raw.attributes
    # type 1 lies in the clip itself; the others name a sub-path first
    at = {1: 1, 2: 3, 3: 2, 4: 2}.get(entry[0], 1)
    return listed_stream(int.from_bytes(entry[at : at + 2]), attributes)


def listed_stream(packet_id: int, raw: bytes) -> ListedStream:
    """A stream from its row of attributes, as playlists and clip tables hold them."""
    coding = raw[0]
    if coding in GRAPHICS_CODINGS:
        return ListedStream(packet_id=packet_id, coding=coding, format=0, rate=0, language=_language(raw[1:4]))
    language = None if coding in VIDEO_CODINGS else _language(raw[2:5])
    return ListedStream(packet_id=packet_id, coding=coding, format=raw[1] >> 4, rate=raw[1] & 15, language=language)


GRAPHICS_CODINGS = frozenset({0x90, 0x91})
VIDEO_CODINGS = frozenset({0x01, 0x02, 0x1B, 0x20, 0x24, 0xEA})


def _language(raw: bytes) -> str | None:
    text = raw.decode("ascii", errors="ignore").strip("\0 ")
    return text or None
