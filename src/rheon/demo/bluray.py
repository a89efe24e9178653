"""Blu-ray style folders: clips by the engine, playlists and clip tables written field by field.

The layouts are those that ``rheon.core.sources.bluray.mpls`` and ``clpi`` name their source for; nothing is shared with
them, so that one can be held against the other.
"""

from __future__ import annotations

import json
import struct
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from rheon.core.commands import safe_file_input
from rheon.core.engine import Command, run

from .footage import Look, make, picture_arguments, sound
from .graphics import write_graphics
from .scenario import Line, Programme

TICKS = 45_000
PICTURE_ID, SOUND_ID, SUBTITLES_ID = 0x1011, 0x1100, 0x1200
CODINGS = {"h264": 0x1B, "ac3": 0x81, "dts": 0x82, "truehd": 0x83, "pcm_bluray": 0x80, "pgs": 0x90}
FORMAT_720P, RATE_24 = 5, 2
MONO, STEREO, SURROUND, RATE_48K = 1, 3, 6, 1
ENCODERS = {
    "ac3": ("-c:a:{n}", "ac3", "-b:a:{n}", "256k"),
    "dts": ("-c:a:{n}", "dca", "-strict", "-2", "-b:a:{n}", "768k"),
    "truehd": ("-c:a:{n}", "truehd", "-strict", "-2"),
    "pcm_bluray": ("-c:a:{n}", "pcm_bluray"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Sound:
    """An audio track to author: codec, ISO 639-2 language, 5.1 or stereo, and the pitch it is recognised by."""

    codec: str
    language: str
    surround: bool
    root_hz: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Clip:
    """An authored clip: its stem, tracks, and its time stamps (45 kHz) with the packets of its key frames."""

    stem: str
    sounds: Sequence[Sound]
    subtitles: Sequence[str]
    start: int
    end: int
    entries: Sequence[tuple[int, int]]
    packets: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """A stretch of a clip in a playlist; the whole clip where no times are given. ``angles`` are further clips."""

    clip: Clip
    from_s: float = 0.0
    to_s: float | None = None
    angles: Sequence[Clip] = ()

    @property
    def times(self) -> tuple[int, int]:
        end = self.clip.end if self.to_s is None else self.clip.start + round(self.to_s * TICKS)
        return self.clip.start + round(self.from_s * TICKS), end


@dataclass(frozen=True, slots=True, kw_only=True)
class Listing:
    """A playlist: items, and chapters in seconds of its own time."""

    items: Sequence[Item]
    chapters_s: Sequence[float] = field(default=(0.0,))


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipRecipe:
    """What a clip shows, and the subtitles over it (times as in the programme, ``shift_s`` taken off)."""

    programme: Programme
    sounds: Sequence[Sound]
    subtitles: Sequence[Sequence[Line]] = ()
    languages: Sequence[str] = ()
    shift_s: float = 0.0


def make_clip(recipe: ClipRecipe, disc: Path, stem: str, work: Path) -> Clip:
    """Encode a clip into ``BDMV/STREAM`` and write its table beside it."""
    work.mkdir(parents=True, exist_ok=True)
    target = disc / "BDMV" / "STREAM" / f"{stem}.m2ts"
    target.parent.mkdir(parents=True, exist_ok=True)
    inputs, graph = picture_arguments(recipe.programme, Look(size=(1280, 720), rate="24"), work / stem)
    first = inputs.count("-i")
    arguments: list[str] = []
    maps: list[str] = []
    for number, track in enumerate(recipe.sounds):
        inputs += sound(recipe.programme.duration_s, root_hz=track.root_hz, surround=track.surround)
        maps += ["-map", f"{first + number}:a"]
        arguments += [part.format(n=number) for part in ENCODERS[track.codec]]
    for number, lines in enumerate(recipe.subtitles):
        path = work / f"{stem}-subtitles{number}.sup"
        inside = [x for x in lines if 0 <= x.start_s - recipe.shift_s < recipe.programme.duration_s]
        write_graphics(inside, (1280, 720), path, recipe.shift_s)
        inputs += ["-i", str(path)]
        maps += ["-map", f"{first + len(recipe.sounds) + number}:s"]
        arguments += [f"-c:s:{number}", "copy"]
    make(
        [
            *inputs, "-filter_complex", graph, "-map", "[seen]", *maps,
            "-c:v", "libx264", "-preset", "veryfast", "-crf", "25", "-g", "24", "-x264-params", "open-gop=0:aud=1",
            "-threads", "1", *arguments, "-bitexact", "-f", "mpegts", "-mpegts_m2ts_mode", "1", str(target),
        ]
    )  # fmt: skip
    clip = _measured(target, stem, recipe)
    table = disc / "BDMV" / "CLIPINF" / f"{stem}.clpi"
    table.parent.mkdir(parents=True, exist_ok=True)
    table.write_bytes(clip_table(clip))
    return clip


def _measured(path: Path, stem: str, recipe: ClipRecipe) -> Clip:
    argv = ["ffprobe", "-v", "error", *safe_file_input(str(path)), "-select_streams", "v"]
    argv += ["-show_entries", "packet=pts,pos,flags,duration", "-of", "json"]
    packets = json.loads(run(Command(argv=argv)).stdout)["packets"]
    stamps = [packet["pts"] for packet in packets]
    return Clip(
        stem=stem,
        sounds=recipe.sounds,
        subtitles=recipe.languages,
        start=min(stamps) // 2,
        end=(max(stamps) + 3750) // 2,
        entries=[(p["pts"] // 2, int(p["pos"]) // 192) for p in packets if p["flags"].startswith("K")],
        packets=path.stat().st_size // 192,
    )


def write_playlist(listing: Listing, disc: Path, stem: str) -> None:
    """Write ``BDMV/PLAYLIST/stem.mpls``."""
    path = disc / "BDMV" / "PLAYLIST" / f"{stem}.mpls"
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(playlist_table(listing))


def playlist_table(listing: Listing) -> bytes:
    items = b"".join(_sized(_item(item)) for item in listing.items)
    body = struct.pack(">HHH", 0, len(listing.items), 0) + items
    playlist = struct.pack(">I", len(body)) + body
    marks = b"".join(_mark(listing, at) for at in listing.chapters_s)
    body = struct.pack(">H", len(listing.chapters_s)) + marks
    start = 58
    head = b"MPLS0200" + struct.pack(">III", start, start + len(playlist), 0)
    return head.ljust(start, b"\0") + playlist + struct.pack(">I", len(body)) + body


def _item(item: Item) -> bytes:
    clip = item.clip
    start, end = item.times
    made = clip.stem.encode() + b"M2TS" + struct.pack(">HBII", 0x11 if item.angles else 1, 0, start, end)
    made += bytes(8) + bytes(1) + struct.pack(">BH", 0, 0)
    if item.angles:
        made += bytes([1 + len(item.angles), 0])
        made += b"".join(other.stem.encode() + b"M2TS\0" for other in item.angles)
    streams = b"".join(
        _short(bytes([1]) + pid.to_bytes(2) + bytes(6)) + _short(attributes) for pid, attributes in _streams(clip)
    )
    counts = bytes([1, len(clip.sounds), len(clip.subtitles), 0, 0, 0, 0])
    return made + _sized(bytes(2) + counts + bytes(5) + streams)


def _mark(listing: Listing, at_s: float) -> bytes:
    before = 0.0
    for number, item in enumerate(listing.items):
        start, end = item.times
        length = (end - start) / TICKS
        if at_s < before + length or number == len(listing.items) - 1:
            time = start + round((at_s - before) * TICKS)
            return struct.pack(">BBHIHI", 0, 1, number, time, 0xFFFF, 0)
        before += length
    raise ValueError("a chapter outside its playlist")


def _streams(clip: Clip) -> list[tuple[int, bytes]]:
    """(packet id, attributes) of each stream."""
    made = [(PICTURE_ID, bytes([CODINGS["h264"], FORMAT_720P << 4 | RATE_24, 0x30]))]
    for number, track in enumerate(clip.sounds):
        layout = SURROUND if track.surround else STEREO
        attributes = bytes([CODINGS[track.codec], layout << 4 | RATE_48K]) + track.language.encode()
        made.append((SOUND_ID + number, attributes))
    for number, language in enumerate(clip.subtitles):
        made.append((SUBTITLES_ID + number, bytes([CODINGS["pgs"]]) + language.encode()))
    return made


def clip_table(clip: Clip) -> bytes:
    info = struct.pack(">HBBIII", 0, 1, 1, 0, 3_000_000, clip.packets)
    stc_sequence = struct.pack(">HIII", 0x1001, 0, clip.start, clip.end)
    sequences = bytes([0, 1]) + struct.pack(">I", 0) + bytes([1, 0]) + stc_sequence
    streams = b"".join(pid.to_bytes(2) + _short(attributes) for pid, attributes in _streams(clip))
    programs = bytes([0, 1]) + struct.pack(">IHBB", 0, 0x100, len(_streams(clip)), 0) + streams
    parts = [_long(info), _long(sequences), _long(programs), _long(struct.pack(">H", 1) + _entry_map(clip.entries))]
    at, starts = 40, []
    for part in parts:
        starts.append(at)
        at += len(part)
    head = b"HDMV0200" + struct.pack(">IIIII", starts[1], starts[2], starts[3], 0, 0)
    return head.ljust(40, b"\0") + b"".join(parts)


def _entry_map(entries: Sequence[tuple[int, int]]) -> bytes:
    """The entry points of the picture: a coarse row wherever the high bits of time or place change."""
    coarse: list[bytes] = []
    fine: list[bytes] = []
    high: tuple[int, int] | None = None
    for time, packet in entries:
        mine = (time >> 19, packet >> 17)
        if mine != high:
            high = mine
            coarse.append(struct.pack(">II", len(fine) << 14 | time >> 18 & 0x3FFF, packet))
        fine.append(struct.pack(">I", (time >> 8 & 0x7FF) << 17 | packet & 0x1FFFF))
    table = struct.pack(">I", 4 + 8 * len(coarse)) + b"".join(coarse) + b"".join(fine)
    counts = 1 << 34 | len(coarse) << 18 | len(fine)
    return struct.pack(">BBH", 0, 1, PICTURE_ID) + counts.to_bytes(6) + struct.pack(">I", 14) + table


def _sized(data: bytes) -> bytes:
    return len(data).to_bytes(2) + data


def _short(data: bytes) -> bytes:
    return bytes([len(data)]) + data


def _long(data: bytes) -> bytes:
    return len(data).to_bytes(4) + data
