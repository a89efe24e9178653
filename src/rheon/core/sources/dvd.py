"""DVD-Video: from tables and a few sampled sectors to titles."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import TypeVar

from ..errors import EmptyDisc, TablesBroken
from ..media import (
    SECTOR_BYTES,
    AudioStream,
    Cell,
    CellData,
    Chapter,
    Extent,
    Problem,
    Purpose,
    Source,
    SourceKind,
    SubtitleStream,
    Title,
    VideoStream,
    to_bcp47,
)
from .disc_files import DiscFiles
from .ifo import ProgramChain, TitleEntry, TitleSetTables, read_manager, read_title_set
from .program_stream import SampleFacts, sample
from .progress import ScanProgress
from .roles import with_roles

T = TypeVar("T")

SAMPLE_PLACES = 6
SAMPLE_SECTORS = 24
STREAM_BASES = {"ac3": 0x80, "dts": 0x88, "pcm_dvd": 0xA0, "mp2": 0x1C0}
SUBPICTURE_BASE = 0x20
VIDEO_STREAM = 0x1E0
COMMENTARY_CODES = (3, 4)
DESCRIPTION_CODE = 2


@dataclass(slots=True)
class _Scan:
    """What one scan gathers: tables by title set, and problems."""

    files: DiscFiles
    tables: dict[int, TitleSetTables | None] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)


def read_dvd(files: DiscFiles, progress: ScanProgress) -> Source:
    """Read a DVD-Video disc.

    Raises ``EmptyDisc``, ``TablesBroken`` or ``Stopped``; what is wrong with single titles is in ``problems``.
    """
    if not any(name.endswith((".IFO", ".BUP")) for name in files.extents):
        raise EmptyDisc(f"{files.label} holds none of the tables that a DVD has.")
    scan = _Scan(files=files)
    entries = _first_good(files, "VIDEO_TS", read_manager)
    if entries is None:
        raise TablesBroken(f"On {files.label} both VIDEO_TS.IFO and its backup VIDEO_TS.BUP are broken or missing.")
    titles = []
    for number, entry in enumerate(entries, start=1):
        progress.at(number, len(entries))
        title = _title(scan, number, entry)
        if title is not None:
            titles.append(title)
    if not titles:
        if any(problem.code == TablesBroken.code for problem in scan.problems):
            raise TablesBroken(f"On {files.label} no title set has a good IFO or BUP table.")
        raise EmptyDisc(f"{files.label} lists no title that can be played.")
    return Source(
        kind=SourceKind.DVD,
        form=files.form,
        label=files.label,
        path=files.path,
        size_bytes=files.size_bytes,
        titles=with_roles(titles),
        problems=tuple(scan.problems),
        bytes_read=files.bytes_read,
    )


def _title(scan: _Scan, number: int, entry: TitleEntry) -> Title | None:
    tables = _tables(scan, entry.title_set)
    if tables is None:
        scan.problems.append(
            Problem(
                code=TablesBroken.code,
                title=number,
                message=f"Title {number} can't be read: the tables of title set {entry.title_set} are broken or"
                " missing, and so is their backup. Copy the disc again to get it.",
            )
        )
        return None
    if not 1 <= entry.title_in_set <= len(tables.chapters):
        return None
    marks = tables.chapters[entry.title_in_set - 1]
    chains = [tables.chains[chain] for chain in dict.fromkeys(mark[0] for mark in marks) if chain in tables.chains]
    chains = [chain for chain in chains if chain.cells]
    if not chains:
        return None
    parts = _vob_parts(scan.files, entry.title_set)
    cells, missing = _cells(chains, parts)
    data = CellData(cells=cells, palette=chains[0].palette)
    facts = _sampled(scan.files, data)
    title = Title(
        number=number,
        duration_s=round(sum(cell.duration_s for cell in cells), 3),
        size_bytes=sum(extent.length_bytes for extent in data.extents),
        data=data,
        container="dvd",
        video=_video(tables, facts),
        audio=_audio(tables, chains[0]),
        subtitles=_subtitles(tables, chains[0]),
        chapters=_chapters(tables, marks),
        angles=entry.angles,
    )
    return _with_faults(scan, title, facts, missing)


def _tables(scan: _Scan, title_set: int) -> TitleSetTables | None:
    if title_set not in scan.tables:
        scan.tables[title_set] = _read_title_set(scan.files, title_set)
    return scan.tables[title_set]


def _with_faults(scan: _Scan, title: Title, facts: SampleFacts, missing: bool) -> Title:
    """The title with what keeps it from being converted, said in the scan's problems too."""
    if missing:
        code, message = "cut_off", "part of its data is missing. Copy the disc or image again to get it."
    elif facts.scrambled:
        code, message = (
            "scrambled",
            "its data is scrambled. Rheon only works with material that is not, and stops here.",
        )
    elif not facts.packs:
        code, message = (
            "no_data",
            "where its picture and sound should be there is something else. Copy the disc again.",
        )
    else:
        return title
    scan.problems.append(
        Problem(code=code, title=title.number, message=f"Title {title.number} can't be converted: {message}")
    )
    return replace(title, fault=code)


def _vob_parts(files: DiscFiles, title_set: int) -> list[Extent]:
    """The parts of a title set's data in order; ``VTS_xx_0.VOB`` is the menu and not among them."""
    names = (f"VTS_{title_set:02}_{part}.VOB" for part in range(1, 10))
    return [files.extents[name] for name in names if files.has(name)]


def sector_extents(parts: list[Extent], first: int, last: int) -> tuple[Extent, ...]:
    """Where sectors ``first`` to ``last`` (both included) lie in the parts; short where the parts end early."""
    start, end = first * SECTOR_BYTES, (last + 1) * SECTOR_BYTES
    found = []
    begin = 0
    for part in parts:
        low, high = max(start, begin), min(end, begin + part.length_bytes)
        if low < high:
            found.append(Extent(path=part.path, offset_bytes=part.offset_bytes + low - begin, length_bytes=high - low))
        begin += part.length_bytes
    return tuple(found)


def _cells(chains: list[ProgramChain], parts: list[Extent]) -> tuple[tuple[Cell, ...], bool]:
    """The title's cells with their places, and whether any of their bytes are missing."""
    cells = []
    at = 0.0
    missing = False
    for listed in (cell for chain in chains for cell in chain.cells):
        extents = sector_extents(parts, listed.first_sector, listed.last_sector)
        cell = Cell(start_s=at, duration_s=listed.duration_s, extents=extents)
        missing = missing or cell.size_bytes < (listed.last_sector - listed.first_sector + 1) * SECTOR_BYTES
        cells.append(cell)
        at += listed.duration_s
    return tuple(cells), missing


def _sampled(files: DiscFiles, data: CellData) -> SampleFacts:
    """Facts from a few places spread over the title: the first packs are often clear where the rest is scrambled."""
    facts = SampleFacts()
    for extent in _sample_places(data.extents):
        facts += sample(files.read_extent(extent))
    return facts


def _sample_places(extents: tuple[Extent, ...]) -> Iterator[Extent]:
    total = sum(extent.length_bytes for extent in extents) // SECTOR_BYTES
    for place in range(SAMPLE_PLACES):
        wanted = (total * place // SAMPLE_PLACES) * SECTOR_BYTES
        for extent in extents:
            if wanted < extent.length_bytes:
                length = min(SAMPLE_SECTORS * SECTOR_BYTES, extent.length_bytes - wanted)
                yield Extent(path=extent.path, offset_bytes=extent.offset_bytes + wanted, length_bytes=length)
                break
            wanted -= extent.length_bytes


def _video(tables: TitleSetTables, facts: SampleFacts) -> VideoStream:
    """The picture: measured where a sequence header was seen, else as the tables say."""
    seen = facts.sequence
    aspect = Fraction(16, 9) if tables.wide else Fraction(4, 3)
    width = seen.width if seen else 720
    height = seen.height if seen else 576 if tables.pal else 480
    rate = Fraction(25) if tables.pal else Fraction(30000, 1001)
    return VideoStream(
        codec=seen.codec if seen else "mpeg2video",
        width=width,
        height=height,
        frame_rate=seen.frame_rate if seen else rate,
        sample_aspect=aspect * height / width,
        scan=facts.scan,
        top_field_first=facts.top_first * 2 >= facts.pictures,
        stream_id=VIDEO_STREAM,
    )


def _audio(tables: TitleSetTables, chain: ProgramChain) -> tuple[AudioStream, ...]:
    kept = [
        (tables.audio[slot], stream) for slot, stream in sorted(chain.audio_streams.items()) if slot < len(tables.audio)
    ]
    return tuple(
        AudioStream(
            index=index,
            codec=declared.codec,
            channels=declared.channels,
            sample_rate=declared.sample_rate,
            language=to_bcp47(declared.language),
            purpose=_purpose(declared.purpose_code),
            stream_id=STREAM_BASES.get(declared.codec, 0x80) + stream,
        )
        for index, (declared, stream) in enumerate(kept)
    )


def _purpose(code: int) -> Purpose:
    if code in COMMENTARY_CODES:
        return Purpose.COMMENTARY
    if code == DESCRIPTION_CODE:
        return Purpose.DESCRIPTION
    return Purpose.MAIN if code == 1 else Purpose.UNKNOWN


def _subtitles(tables: TitleSetTables, chain: ProgramChain) -> tuple[SubtitleStream, ...]:
    kept = [
        (tables.subpictures[slot], stream)
        for slot, stream in sorted(chain.subpicture_streams.items())
        if slot < len(tables.subpictures)
    ]
    return tuple(
        SubtitleStream(
            index=index,
            format="dvd_subtitle",
            language=to_bcp47(declared.language),
            stream_id=SUBPICTURE_BASE + stream,
        )
        for index, (declared, stream) in enumerate(kept)
    )


def _chapters(tables: TitleSetTables, marks: tuple[tuple[int, int], ...]) -> tuple[Chapter, ...]:
    """Chapter starts: the first cell of the program that each mark names, counted over the title's chains."""
    chapters: list[Chapter] = []
    before = 0.0
    current: int | None = None
    for number, program in marks:
        chain = tables.chains.get(number)
        if chain is None or not 1 <= program <= len(chain.program_cells):
            continue
        if current is not None and number != current:
            before += sum(cell.duration_s for cell in tables.chains[current].cells)
        current = number
        within = sum(cell.duration_s for cell in chain.cells[: chain.program_cells[program - 1]])
        chapters.append(Chapter(number=len(chapters) + 1, start_s=round(before + within, 3)))
    return tuple(chapters)


def _read_title_set(files: DiscFiles, title_set: int) -> TitleSetTables | None:
    return _first_good(files, f"VTS_{title_set:02}_0", read_title_set)


def _first_good(files: DiscFiles, stem: str, reader: Callable[[bytes], T]) -> T | None:
    """What the reader makes of the table, or of its backup where the table is bad; ``None`` where both are."""
    for name in (f"{stem}.IFO", f"{stem}.BUP"):
        if files.has(name):
            with contextlib.suppress(TablesBroken):
                return reader(files.read(name))
    return None
