"""What a work is, in a line."""

from __future__ import annotations

from collections.abc import Iterator

from ..catalogue import say, say_count
from ..wording import duration_text
from .works import Work


def work_text(work: Work) -> str:
    """``1994 · Ada Fenwick · 1 h 32 min``, ``season 1 · 2011 · 4 episodes``."""
    return " · ".join(_pieces(work))


def _pieces(work: Work) -> Iterator[str]:
    if work.season is not None:
        yield say("season {season}", season=work.season)
    if work.year is not None:
        yield str(work.year)
    if work.edition:
        yield work.edition
    if work.director:
        yield work.director
    if work.duration_s is not None:
        yield duration_text(work.duration_s)
    if work.episodes:
        yield say_count("{count} episode", "{count} episodes", len(work.episodes))
