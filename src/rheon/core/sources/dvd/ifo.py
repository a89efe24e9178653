"""The tables of DVD-Video (``.IFO`` and ``.BUP``), as values.

Source of every offset: DVD Specifications for Read-Only Disc, part 3 (VMGI, VTSI and PGCI structures), as found by
building discs and reading them back. Numbers are big-endian; pointers count sectors of 2048 bytes.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from fractions import Fraction

from construct import Array, Bytes, Computed, Const, Int8ub, Int16ub, Int32ub, Padding, Pointer, Struct, this

from ...media import SECTOR_BYTES
from ..tables import broken_tables

NTSC_CORRECTION = Fraction(1001, 1000)
AUDIO_SLOTS = 8
SUBPICTURE_SLOTS = 32

_TITLE_ENTRY = Struct(
    "playback" / Int8ub,
    "angles" / Int8ub,
    "chapters" / Int16ub,
    "parental" / Int16ub,
    "title_set" / Int8ub,
    "title_in_set" / Int8ub,
    "first_sector" / Int32ub,
)
_TITLE_TABLE = Struct("count" / Int16ub, Padding(6), "titles" / Array(this.count, _TITLE_ENTRY))
_MANAGER = Struct("magic" / Const(b"DVDVIDEO-VMG"), "title_table" / Pointer(0xC4, Int32ub))

_AUDIO_ATTRIBUTES = Struct(
    "coding" / Int8ub,
    "format" / Int8ub,
    "language" / Bytes(2),
    "language_extension" / Int8ub,
    "purpose" / Int8ub,
    Padding(2),
)
_SUBPICTURE_ATTRIBUTES = Struct("coding" / Int8ub, Padding(1), "language" / Bytes(2), Padding(1), "purpose" / Int8ub)
_TITLE_SET = Struct(
    "magic" / Const(b"DVDVIDEO-VTS"),
    "chapter_table" / Pointer(0xC8, Int32ub),
    "chain_table" / Pointer(0xCC, Int32ub),
    "vobu_map" / Pointer(0xE4, Int32ub),
    "video" / Pointer(0x200, Int8ub),
    "picture" / Pointer(0x201, Int8ub),
    "audio_count" / Pointer(0x202, Int16ub),
    "audio" / Pointer(0x204, Array(AUDIO_SLOTS, _AUDIO_ATTRIBUTES)),
    "subpicture_count" / Pointer(0x254, Int16ub),
    "subpictures" / Pointer(0x256, Array(SUBPICTURE_SLOTS, _SUBPICTURE_ATTRIBUTES)),
)
_CHAPTER_TABLE = Struct("count" / Int16ub, Padding(2), "end" / Int32ub, "offsets" / Array(this.count, Int32ub))
_CHAIN_ENTRY = Struct("category" / Int32ub, "offset" / Int32ub)
_CHAIN_TABLE = Struct("count" / Int16ub, Padding(2), "end" / Int32ub, "chains" / Array(this.count, _CHAIN_ENTRY))

_CELL = Struct(
    "block" / Int8ub,
    Padding(1),
    "still_s" / Int8ub,
    Padding(1),
    "time" / Bytes(4),
    "first_sector" / Int32ub,
    Padding(8),
    "last_sector" / Int32ub,
    "mode" / Computed(lambda cell: cell.block >> 6),
    "is_angle" / Computed(lambda cell: cell.block >> 4 & 3 == 1),
    "is_interleaved" / Computed(lambda cell: bool(cell.block >> 2 & 1)),
)
_CHAIN = Struct(
    Padding(2),
    "program_count" / Int8ub,
    "cell_count" / Int8ub,
    "time" / Bytes(4),
    Padding(4),
    "audio_control" / Array(AUDIO_SLOTS, Int16ub),
    "subpicture_control" / Array(SUBPICTURE_SLOTS, Int32ub),
    Padding(8),
    "palette" / Array(16, Int32ub),
    Padding(2),
    "program_map_at" / Int16ub,
    "cells_at" / Int16ub,
    Padding(2),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class TitleEntry:
    """One row of the disc's title search table."""

    title_set: int
    title_in_set: int
    angles: int
    chapters: int


@dataclass(frozen=True, slots=True, kw_only=True)
class AudioAttributes:
    """One declared audio track: ffmpeg codec name, channels, two-letter language (or ``None``), purpose code."""

    codec: str
    channels: int
    sample_rate: int
    language: str | None
    purpose_code: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SubpictureAttributes:
    language: str | None
    purpose_code: int


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainCell:
    """One cell of a program chain: seconds, and its first and last sector counted from ``VTS_xx_1.VOB``.

    ``interleaved`` cells lie between units of other angles; ``still_s`` is how long the last picture stands.
    """

    duration_s: float
    first_sector: int
    last_sector: int
    interleaved: bool = False
    still_s: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class ProgramChain:
    """A playing order: cells of the first angle, the cell each program starts at (from 0), stream controls, palette.

    ``angle_blocks`` maps a cell's position to the same stretch from angles 2, 3 …; ``audio_streams`` and
    ``subpicture_streams`` map a declared track's position to its stream number.
    """

    cells: tuple[ChainCell, ...]
    angle_blocks: dict[int, tuple[ChainCell, ...]]
    program_cells: tuple[int, ...]
    audio_streams: dict[int, int]
    subpicture_streams: dict[int, int]
    palette: tuple[str, ...]

    def angle(self, number: int) -> tuple[ChainCell, ...]:
        """The cells of an angle, counted from 1; where a block has no such angle, its first."""
        return tuple(
            block[number - 2] if number > 1 and len(block := self.angle_blocks.get(at, ())) > number - 2 else cell
            for at, cell in enumerate(self.cells)
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class TitleSetTables:
    """What a title set's tables say. ``chapters[t]`` lists (chain number, program number) of its title ``t``+1.

    ``vobus`` are the sectors at which the set's video object units (VOBUs) start, each with a navigation pack.
    """

    pal: bool
    wide: bool
    letterboxed: bool
    vobus: tuple[int, ...]
    audio: tuple[AudioAttributes, ...]
    subpictures: tuple[SubpictureAttributes, ...]
    chapters: tuple[tuple[tuple[int, int], ...], ...]
    chains: dict[int, ProgramChain]


def read_manager(data: bytes) -> tuple[TitleEntry, ...]:
    """Read ``VIDEO_TS.IFO``. Raises ``TablesBroken``."""
    with broken_tables("the disc's title table"):
        head = _MANAGER.parse(data)
        table = _TITLE_TABLE.parse(_at(data, head.title_table * SECTOR_BYTES))
        return tuple(
            TitleEntry(
                title_set=entry.title_set,
                title_in_set=entry.title_in_set,
                angles=max(1, entry.angles),
                chapters=entry.chapters,
            )
            for entry in table.titles
        )


def read_title_set(data: bytes) -> TitleSetTables:
    """Read ``VTS_xx_0.IFO``. Raises ``TablesBroken``."""
    with broken_tables("a title set's tables"):
        head = _TITLE_SET.parse(data)
        wide = head.video >> 2 & 3 == 3
        chains_at = _at(data, head.chain_table * SECTOR_BYTES)
        return TitleSetTables(
            pal=head.video >> 4 & 3 == 1,
            wide=wide,
            letterboxed=bool(head.picture >> 2 & 1),
            vobus=_vobus(data, head.vobu_map * SECTOR_BYTES),
            audio=tuple(_audio(entry) for entry in head.audio[: min(AUDIO_SLOTS, head.audio_count)]),
            subpictures=tuple(
                SubpictureAttributes(language=_language(entry.coding & 3, entry.language), purpose_code=entry.purpose)
                for entry in head.subpictures[: min(SUBPICTURE_SLOTS, head.subpicture_count)]
            ),
            chapters=_chapters(_at(data, head.chapter_table * SECTOR_BYTES)),
            chains={
                number: _chain(_at(chains_at, entry.offset), wide)
                for number, entry in enumerate(_CHAIN_TABLE.parse(chains_at).chains, start=1)
            },
        )


def cell_time(raw: bytes | bytearray) -> float:
    """Seconds from a BCD time. With the 30-frame flag the count runs at NTSC speed, so it is 1.001 times as long."""
    hours, minutes, seconds = (_bcd(byte) for byte in raw[:3])
    whole = hours * 3600 + minutes * 60 + seconds
    frames = _bcd(raw[3] & 0x3F)
    if raw[3] >> 6 == 3:
        return float((whole + Fraction(frames, 30)) * NTSC_CORRECTION)
    return float(whole + Fraction(frames, 25))


def palette_colour(entry: int) -> str:
    """``rrggbb`` from a palette word (0, Y, Cr, Cb), by ITU-R BT.601 with video range."""
    luma, red, blue = (entry >> 16 & 255) - 16, (entry >> 8 & 255) - 128, (entry & 255) - 128
    channels = (
        1.164 * luma + 1.596 * red,
        1.164 * luma - 0.813 * red - 0.392 * blue,
        1.164 * luma + 2.017 * blue,
    )
    return "".join(f"{max(0, min(255, round(channel))):02x}" for channel in channels)


def _at(data: bytes, offset: int) -> bytes:
    if not 0 < offset < len(data):
        raise ValueError(f"pointer to {offset} in {len(data)} bytes")
    return data[offset:]


def _bcd(byte: int) -> int:
    tens, ones = byte >> 4, byte & 15
    if tens > 9 or ones > 9:
        raise ValueError(f"not a BCD byte: {byte:#x}")
    return tens * 10 + ones


def _language(kind: int, raw: bytes) -> str | None:
    return raw.decode("ascii", errors="ignore") if kind == 1 and raw.strip(b"\0 ") else None


_AUDIO_CODECS = {0: "ac3", 2: "mp2", 3: "mp2", 4: "pcm_dvd", 6: "dts"}


def _audio(entry: object) -> AudioAttributes:
    coding, shape = entry.coding, entry.format  # type: ignore[attr-defined]
    return AudioAttributes(
        codec=_AUDIO_CODECS.get(coding >> 5, "unknown"),
        channels=(shape & 7) + 1,
        sample_rate=96000 if shape >> 4 & 3 == 1 else 48000,
        language=_language(coding >> 2 & 3, entry.language),  # type: ignore[attr-defined]
        purpose_code=entry.purpose,  # type: ignore[attr-defined]
    )


def _chapters(data: bytes) -> tuple[tuple[tuple[int, int], ...], ...]:
    table = _CHAPTER_TABLE.parse(data)
    ends = [*table.offsets[1:], table.end + 1]
    titles = []
    for start, end in zip(table.offsets, ends, strict=True):
        if not 8 <= start <= end <= len(data):
            raise ValueError("chapter list outside its table")
        titles.append(
            tuple(
                (int.from_bytes(data[at : at + 2]), int.from_bytes(data[at + 2 : at + 4]))
                for at in range(start, end - 3, 4)
            )
        )
    return tuple(titles)


def _vobus(data: bytes, offset: int) -> tuple[int, ...]:
    """The address map of video object units (VOBUs); empty where the set has none or it is damaged."""
    if not 0 < offset <= len(data) - 4:
        return ()
    end = min(len(data), offset + int.from_bytes(data[offset : offset + 4]) + 1)
    found = tuple(int.from_bytes(data[at : at + 4]) for at in range(offset + 4, end - 3, 4))
    return found if all(one < other for one, other in itertools.pairwise(found)) else ()


def _chain(data: bytes, wide: bool) -> ProgramChain:
    chain = _CHAIN.parse(data)
    cells = Array(chain.cell_count, _CELL).parse(data[chain.cells_at :]) if chain.cell_count else []
    programs = data[chain.program_map_at : chain.program_map_at + chain.program_count] if chain.program_count else b""
    kept: list[ChainCell] = []
    blocks: dict[int, list[ChainCell]] = {}
    position: dict[int, int] = {}
    for number, cell in enumerate(cells, start=1):
        if cell.last_sector < cell.first_sector:
            raise ValueError("cell ends before it starts")
        listed = ChainCell(
            duration_s=cell_time(cell.time),
            first_sector=cell.first_sector,
            last_sector=cell.last_sector,
            interleaved=cell.is_interleaved,
            still_s=cell.still_s,
        )
        if cell.is_angle and cell.mode in (2, 3) and kept:
            position[number] = len(kept) - 1
            blocks.setdefault(len(kept) - 1, []).append(listed)
        else:
            position[number] = len(kept)
            kept.append(listed)
    shift = 16 if wide else 24
    return ProgramChain(
        cells=tuple(kept),
        angle_blocks={at: tuple(others) for at, others in blocks.items()},
        program_cells=tuple(position[entry] for entry in programs),
        audio_streams={n: word >> 8 & 7 for n, word in enumerate(chain.audio_control) if word & 0x8000},
        subpicture_streams={
            n: word >> shift & 31 for n, word in enumerate(chain.subpicture_control) if word & 0x80000000
        },
        palette=tuple(palette_colour(word) for word in chain.palette),
    )
