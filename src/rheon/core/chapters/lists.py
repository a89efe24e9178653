"""Lists of chapters as text, whichever of the open forms they are in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..errors import BadChapters
from . import forms, markup
from .entries import Listed

MOST_CHAPTERS = 999
LARGEST_LIST = 1 << 20
"""Signs of a list."""

Reader = Callable[[str], list[Listed] | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class ChapterList:
    """Chapters as they were listed. Either all have a moment or none."""

    entries: tuple[Listed, ...]

    @property
    def timed(self) -> bool:
        return self.entries[0].start_s is not None


READERS: tuple[Reader, ...] = (
    markup.matroska,
    forms.json_list,
    forms.ffmetadata,
    forms.cue_sheet,
    forms.pairs,
    forms.timed_texts,
    forms.lines,
)
"""Each gives ``None`` for a text in another form; the first that does not has read it."""


def read_list(text: str) -> ChapterList:
    """The chapters of a list, by their moments. Raises ``BadChapters`` with what is wrong in which line."""
    if len(text) > LARGEST_LIST:
        raise BadChapters("This list is longer than a million signs.")
    text = text.removeprefix("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    read = (reader(text) for reader in READERS)
    entries = next((found for found in read if found is not None), [])
    return ChapterList(entries=_in_order(entries))


def _in_order(entries: list[Listed]) -> tuple[Listed, ...]:
    """Raises ``BadChapters``."""
    if not entries:
        raise BadChapters("There is no chapter in this list.")
    if len(entries) > MOST_CHAPTERS:
        raise BadChapters("These are {count} chapters; {most} is the most.", count=len(entries), most=MOST_CHAPTERS)
    without = next((place for place, one in enumerate(entries, start=1) if one.start_s is None), None)
    if without is None:
        return tuple(sorted(entries, key=lambda one: one.start_s or 0.0))
    if any(one.start_s is not None for one in entries):
        raise BadChapters(
            "Chapter {number} (“{name}”) has no moment, and others have.",
            number=without,
            name=entries[without - 1].name[:60],
        )
    return tuple(entries)
