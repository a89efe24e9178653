"""Cutting a title by chapters: each range becomes a title of its own. Pure."""

from __future__ import annotations

import itertools
import statistics
from dataclasses import dataclass, replace

from ...errors import NoSuchTitle
from ...media import Cell, CellData, Chapter, Reason, Role, Title
from ...media.kept import cut_times, gaps_within

LEAST_PARTS = 3
ALIKE = 0.15
SIGNATURE_S, SIGNATURE_SHARE = 2.0, 0.06
SHORT_CHAPTER = 0.6
LEAST_PART_S = 8.0
LONGEST_PART_S = 100 * 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ChapterRange:
    """From which chapter to which, both included, counted from 1."""

    first: int
    last: int


def cut(title: Title, chapters: ChapterRange, number: int) -> Title:
    """The range as a title numbered ``number``. Raises ``NoSuchTitle`` where there are no such chapters."""
    listed = title.chapters
    if not 1 <= chapters.first <= chapters.last <= len(listed):
        raise NoSuchTitle(
            "Title {number} has no chapters {first} to {last}.",
            number=title.number,
            first=chapters.first,
            last=chapters.last,
            advice="It has {count}.",
            count=len(listed),
        )
    from_s = listed[chapters.first - 1].start_s if chapters.first > 1 else 0.0
    to_s = listed[chapters.last].start_s if chapters.last < len(listed) else title.duration_s
    part = _of_disc(title, from_s, to_s) if isinstance(title.data, CellData) else cut_times(title, from_s, to_s, number)
    return replace(
        part,
        number=number,
        key=f"{title.key}#{chapters.first}-{chapters.last}",
        chapters=tuple(
            Chapter(number=at, start_s=round(max(0.0, chapter.start_s - from_s), 3), name=chapter.name)
            for at, chapter in enumerate(listed[chapters.first - 1 : chapters.last], start=1)
        ),
        gaps=gaps_within(title, from_s, to_s),
        part_of=title.number,
        role=Role.EPISODE,
        reasons=(Reason(code="chapter_range", values={"title": title.number, **_as_values(chapters)}),),
        shares=(),
    )


def other_angle(title: Title, angle: int) -> Title:
    """The title as another of its angles shows it, counted from 1. Raises ``NoSuchTitle``."""
    data = title.data
    angles = (data.cells, *data.other_angles) if isinstance(data, CellData) else ()
    if not 1 <= angle <= max(1, len(angles)):
        raise NoSuchTitle(
            "Title {number} has no angle {angle}.",
            number=title.number,
            angle=angle,
            advice="It has {count}.",
            count=max(1, len(angles)),
        )
    if not isinstance(data, CellData) or angle == 1:
        return title
    others = tuple(cells for place, cells in enumerate(angles, start=1) if place != angle)
    return replace(title, data=replace(data, cells=angles[angle - 1], other_angles=others))


def proposed_ranges(title: Title) -> tuple[ChapterRange, ...]:
    """The chapter ranges that look like episodes; empty where nothing speaks for a series.

    Evidence: the chapters fall into three or more runs of like length, and each run opens or closes with a chapter
    of the same, short length, as a series' opening or closing titles are. Evenly spaced chapters prove nothing.
    """
    lengths = _chapter_lengths(title)
    best: tuple[float, tuple[ChapterRange, ...]] | None = None
    for size in range(2, len(lengths) // LEAST_PARTS + 1):
        if len(lengths) % size:
            continue
        runs = [lengths[at : at + size] for at in range(0, len(lengths), size)]
        spread = _run_spread(runs)
        if spread is not None and (best is None or spread < best[0]):
            found = tuple(ChapterRange(first=n * size + 1, last=(n + 1) * size) for n in range(len(runs)))
            best = (spread, found)
    return best[1] if best else ()


def _run_spread(runs: list[list[float]]) -> float | None:
    """How much the runs' lengths differ (share of their median), where they look like episodes."""
    totals = [sum(run) for run in runs]
    median = statistics.median(totals)
    spread = (max(totals) - min(totals)) / median if median else 1.0
    if not LEAST_PART_S <= median <= LONGEST_PART_S or spread > 2 * ALIKE:
        return None
    usual = median / len(runs[0])
    for place in (0, -1):
        signature = [run[place] for run in runs]
        middle = statistics.median(signature)
        steady = max(signature) - min(signature) <= max(SIGNATURE_S * min(1.0, median / 600), SIGNATURE_SHARE * middle)
        if steady and 0 < middle <= SHORT_CHAPTER * usual:
            return spread
    return None


def _chapter_lengths(title: Title) -> list[float]:
    marks = [*(chapter.start_s for chapter in title.chapters), title.duration_s]
    lengths = [end - start for start, end in itertools.pairwise(marks)]
    # players put an empty last chapter at the end of some discs
    while lengths and lengths[-1] < 0.5:
        lengths.pop()
    return lengths


def _of_disc(title: Title, from_s: float, to_s: float) -> Title:
    """The part of a disc's title between two moments, in whole cells."""
    assert isinstance(title.data, CellData)
    angles = tuple(_cut_cells(cells, from_s, to_s) for cells in title.data.other_angles)
    data = replace(title.data, cells=_cut_cells(title.data.cells, from_s, to_s), other_angles=angles)
    size = sum(extent.length_bytes for extent in data.extents)
    return replace(title, data=data, duration_s=_length(data), size_bytes=size)


def _cut_cells(cells: tuple[Cell, ...], from_s: float, to_s: float) -> tuple[Cell, ...]:
    """The cells whose middle lies in the range: chapters begin with cells, and cells are never broken."""
    kept = []
    at = 0.0
    for cell in cells:
        if from_s <= cell.start_s + cell.duration_s / 2 < to_s:
            kept.append(replace(cell, start_s=round(at, 3)))
            at += cell.duration_s
    return tuple(kept)


def _length(data: CellData) -> float:
    return round(sum(cell.duration_s for cell in data.cells), 3)


def _as_values(chapters: ChapterRange) -> dict[str, object]:
    return {"first": chapters.first, "last": chapters.last}
