"""A list put onto a title: names onto its chapters, or chapters in place of its own. Pure."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..errors import BadChapters
from ..media import Chapter, Reason, Tags
from ..media.tags import LONGEST_TAG as LONGEST_NAME
from ..media.tags import shortened
from ..naming.patterns import line_of
from .entries import Listed
from .lists import ChapterList

NEAREST_S = 0.1
"""Chapters that are nearer to each other than this are the same."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """The chapters that come of a list, and what of it could not be used."""

    chapters: tuple[Chapter, ...]
    told: tuple[Reason, ...] = ()


def placed(found: ChapterList, chapters: Sequence[Chapter], duration_s: float) -> Placed:
    """What a list makes of a title's chapters: those with moments take their place, names alone are given in order.

    Raises ``BadChapters`` where nothing comes of it.
    """
    if not found.timed and not chapters:
        raise BadChapters("The title has no chapters to be named.", advice="Say when each begins: 0:12:30 Low water.")
    made = _timed(found.entries, duration_s) if found.timed else _named(found.entries, chapters)
    if not made.chapters:
        raise BadChapters("All of these chapters begin behind the title's end.", advice="Is it another title's list?")
    return made


def by_pattern(pattern: str, chapters: Sequence[Chapter], tags: Tags) -> tuple[Chapter, ...]:
    """Each chapter called by a pattern, which may name its ``number``. Raises ``BadPattern``."""
    names = (line_of(pattern, tags, {"number": str(chapter.number)}) for chapter in chapters)
    return tuple(
        replace(chapter, name=shortened(name, LONGEST_NAME) or None)
        for chapter, name in zip(chapters, names, strict=True)
    )


def plain(chapters: Sequence[tuple[float, str]]) -> tuple[Chapter, ...]:
    """Chapters from moments and names, in their order."""
    ordered = sorted(chapters, key=lambda one: one[0])
    return tuple(
        Chapter(number=number, start_s=round(start_s, 6), name=shortened(name, LONGEST_NAME) or None)
        for number, (start_s, name) in enumerate(ordered, start=1)
    )


def _named(entries: Sequence[Listed], chapters: Sequence[Chapter]) -> Placed:
    made = tuple(
        replace(chapter, name=shortened(entry.name, LONGEST_NAME) or chapter.name) if entry else chapter
        for chapter, entry in zip(chapters, itertools.chain(entries, itertools.repeat(None)), strict=False)
    )
    count, wanted = len(chapters), len(entries)
    told: list[Reason] = []
    if count < wanted:
        told.append(Reason(code="chapters_fewer_than_names", values={"names": wanted, "chapters": count}))
    elif count > wanted:
        told.append(Reason(code="chapters_more_than_names", values={"names": wanted, "chapters": count}))
    return Placed(chapters=made, told=(*told, *_shortened(entries)))


def _timed(entries: Sequence[Listed], duration_s: float) -> Placed:
    inside: list[tuple[float, str]] = []
    told: list[Reason] = []
    behind = [one for one in entries if (one.start_s or 0.0) > duration_s - NEAREST_S]
    for one in entries:
        start_s = one.start_s or 0.0
        if one in behind or (inside and start_s - inside[-1][0] < NEAREST_S):
            continue
        inside.append((start_s, one.name))
    if behind:
        last_s = max(one.start_s or 0.0 for one in behind)
        values: dict[str, object] = {"count": len(behind), "last_s": last_s, "duration_s": duration_s}
        told.append(Reason(code="chapters_behind_end", values=values))
    if same := len(entries) - len(behind) - len(inside):
        told.append(Reason(code="chapters_at_once", values={"count": same}))
    return Placed(chapters=plain(inside), told=(*told, *_shortened(entries)))


def _shortened(entries: Sequence[Listed]) -> tuple[Reason, ...]:
    long = sum(len(one.name.encode()) > LONGEST_NAME for one in entries)
    return (Reason(code="chapter_names_shortened", values={"count": long, "most": LONGEST_NAME}),) if long else ()
