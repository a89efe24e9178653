"""DVD-Video: from tables and a few sampled sectors to titles."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import TypeVar

from ...errors import EmptyDisc, TablesBroken
from ...media import (
    SECTOR_BYTES,
    AudioStream,
    Cell,
    CellData,
    Extent,
    Source,
    SourceKind,
    Title,
)
from ..faults import Problems
from ..images.disc_files import DiscFiles
from ..progress import ScanProgress
from ..roles.roles import with_roles
from .cells import Located, TitleSetData, locate, vob_parts
from .ifo import ProgramChain, TitleEntry, TitleSetTables, read_manager, read_title_set
from .program_stream import SampleFacts, sample
from .tracks import audio_streams, chapter_starts, subtitle_streams, video_stream

T = TypeVar("T")

SAMPLE_PLACES = 6
SAMPLE_SECTORS = 24
SECOND_LOOK_PLACES, SECOND_LOOK_SECTORS = 3, 400
LEAST_PACKS = 100
"""So many packs of a title must have been seen before a track counts as absent."""


@dataclass(slots=True)
class _Scan:
    """What one scan gathers: tables by title set, and problems."""

    files: DiscFiles
    tables: dict[int, TitleSetTables | None] = field(default_factory=dict)
    problems: Problems = field(default_factory=Problems)


def read_dvd(files: DiscFiles, progress: ScanProgress) -> Source:
    """Read a DVD-Video disc.

    Raises ``EmptyDisc``, ``TablesBroken`` or ``Stopped``; what is wrong with single titles is in ``problems``.
    """
    if not any(name.endswith((".IFO", ".BUP")) for name in files.runs):
        raise EmptyDisc("{label} holds none of the tables that a DVD has.", label=files.label)
    scan = _Scan(files=files)
    entries = _entries(scan)
    titles = []
    for number, entry in enumerate(entries, start=1):
        progress.at(number, len(entries))
        title = _title(scan, number, entry)
        if title is not None:
            titles.append(title)
    if not titles:
        if any(problem.code == TablesBroken.code for problem in scan.problems.found):
            raise TablesBroken("On {label} no title set has a good IFO or BUP table.", label=files.label)
        raise EmptyDisc("{label} lists no title that can be played.", label=files.label)
    return files.source(SourceKind.DVD, with_roles(titles), scan.problems.found)


def _entries(scan: _Scan) -> Sequence[TitleEntry]:
    """The disc's titles; where its title table was not kept, those that the title sets list themselves."""
    files = scan.files
    entries = _first_good(files, "VIDEO_TS", read_manager)
    if entries is not None:
        return entries
    if files.has("VIDEO_TS.IFO") or files.has("VIDEO_TS.BUP"):
        raise TablesBroken("On {label} both VIDEO_TS.IFO and its backup VIDEO_TS.BUP are broken.", label=files.label)
    sets = sorted({int(found[1]) for name in files.runs if (found := re.match(r"VTS_(\d\d)_0\.(IFO|BUP)$", name))})
    return [
        TitleEntry(title_set=number, title_in_set=title, angles=_most_angles(tables, marks), chapters=len(marks))
        for number in sets
        if (tables := _tables(scan, number)) is not None
        for title, marks in enumerate(tables.chapters, start=1)
    ]


def _most_angles(tables: TitleSetTables, marks: Sequence[tuple[int, int]]) -> int:
    chains = [tables.chains[number] for number, _ in marks if number in tables.chains]
    return 1 + max((len(block) for chain in chains for block in chain.angle_blocks.values()), default=0)


def _title(scan: _Scan, number: int, entry: TitleEntry) -> Title | None:
    tables = _tables(scan, entry.title_set)
    if tables is None:
        _tables_missing(scan, number, entry.title_set)
        return None
    if not 1 <= entry.title_in_set <= len(tables.chapters):
        return None
    marks = tables.chapters[entry.title_in_set - 1]
    chains = [tables.chains[chain] for chain in dict.fromkeys(mark[0] for mark in marks) if chain in tables.chains]
    chains = [chain for chain in chains if chain.cells]
    if not chains:
        return None
    placed = TitleSetData(files=scan.files, parts=vob_parts(scan.files, entry.title_set), vobus=tables.vobus)
    located = locate(placed, [cell for chain in chains for cell in chain.cells])
    others = _other_angles(placed, chains, entry.angles)
    data = CellData(cells=located.cells, palette=chains[0].palette, other_angles=others)
    facts = sampled(scan.files, data.extents, SAMPLE_PLACES, SAMPLE_SECTORS)
    duration_s = round(sum(cell.duration_s for cell in located.cells), 3)
    title = Title(
        number=number,
        key=f"{entry.title_set}/{entry.title_in_set}",
        duration_s=duration_s,
        size_bytes=sum(extent.length_bytes for extent in data.extents),
        data=data,
        container="dvd",
        video=video_stream(tables, facts),
        audio=_present(scan, number, audio_streams(tables, chains[0]), data, facts),
        subtitles=subtitle_streams(tables, chains[0]),
        chapters=tuple(c for c in chapter_starts(tables, marks) if c.start_s < duration_s or c.number == 1),
        angles=max(1, min(entry.angles, 1 + len(others))),
        gaps=located.gaps,
    )
    return _with_faults(scan, title, facts, located)


def _other_angles(placed: TitleSetData, chains: Sequence[ProgramChain], angles: int) -> tuple[tuple[Cell, ...], ...]:
    if not any(chain.angle_blocks for chain in chains):
        return ()
    return tuple(
        locate(placed, [cell for chain in chains for cell in chain.angle(number)]).cells
        for number in range(2, angles + 1)
    )


def _tables(scan: _Scan, title_set: int) -> TitleSetTables | None:
    if title_set not in scan.tables:
        scan.tables[title_set] = _first_good(scan.files, f"VTS_{title_set:02}_0", read_title_set)
    return scan.tables[title_set]


def _tables_missing(scan: _Scan, number: int, title_set: int) -> None:
    if any(name.startswith(f"VTS_{title_set:02}_") for name in scan.files.runs):
        scan.problems.add(TablesBroken.code, number, "tables_broken", title_set=title_set)
    else:
        scan.problems.add("not_kept", number, "title_set_not_copied", title_set=title_set)


def _present(
    scan: _Scan, number: int, declared: tuple[AudioStream, ...], data: CellData, facts: SampleFacts
) -> tuple[AudioStream, ...]:
    """The tracks that the data really hold; a second look is taken before one counts as absent."""
    absent = [track for track in declared if track.stream_id not in facts.streams]
    if not absent or not facts.packs or facts.scrambled:
        return declared
    facts += sampled(scan.files, data.extents, SECOND_LOOK_PLACES, SECOND_LOOK_SECTORS)
    absent = [track for track in absent if track.stream_id not in facts.streams]
    if not absent or facts.packs < LEAST_PACKS:
        return declared
    for track in absent:
        scan.problems.absent(number, track)
    kept = [track for track in declared if track not in absent]
    return tuple(replace(track, index=index) for index, track in enumerate(kept))


def _with_faults(scan: _Scan, title: Title, facts: SampleFacts, located: Located) -> Title:
    """The title with what keeps it from being converted; what is missing of it is said in the scan's problems."""
    judged = scan.problems.judge(title, scrambled=facts.scrambled, empty=not facts.packs)
    if judged.fault is None and located.cut_s is not None:
        scan.problems.add("cut_off", title.number, "ends_early", ends_s=located.cut_s)
    return judged


def sampled(files: DiscFiles, extents: Sequence[Extent], places: int, sectors: int) -> SampleFacts:
    """Facts from a few places spread over a title: the first packs are often clear where the rest is scrambled."""
    facts = SampleFacts()
    for extent in _sample_places(extents, places, sectors):
        facts += sample(files.read_extent(extent))
    return facts


def _sample_places(extents: Sequence[Extent], places: int, sectors: int) -> Iterator[Extent]:
    total = sum(extent.length_bytes for extent in extents) // SECTOR_BYTES
    for place in range(places):
        wanted = (total * place // places) * SECTOR_BYTES
        for extent in extents:
            if wanted < extent.length_bytes:
                length = min(sectors * SECTOR_BYTES, extent.length_bytes - wanted)
                yield Extent(path=extent.path, offset_bytes=extent.offset_bytes + wanted, length_bytes=length)
                break
            wanted -= extent.length_bytes


def _first_good(files: DiscFiles, stem: str, reader: Callable[[bytes], T]) -> T | None:
    """What the reader makes of the table, or of its backup where the table is bad; ``None`` where both are."""
    for name in (f"{stem}.IFO", f"{stem}.BUP"):
        if files.has(name):
            with contextlib.suppress(TablesBroken):
                return reader(files.read(name))
    return None
