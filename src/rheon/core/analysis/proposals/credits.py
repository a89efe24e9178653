"""Credits at the end of a title: text on a dark ground until there is nothing more."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...engine import require
from ...media import Title
from ..scenes import scene_at
from .small_pictures import black, is_text, small_pictures

STEP_S, MOST_S, MOST_SHARE = 5.0, 1200.0, 0.5
ENDS_S = 1.0
LEAST_S = 12.0
MISSES = 3
BACK_S, NEAR_S = STEP_S * MISSES, 6.0
FINE_RATE = 4
CHANGES = 6
"""Pictures, of ``FINE_RATE`` a second, from one card to the next."""


@dataclass(slots=True)
class _Walk:
    """Backwards from the end: the earliest moment that was text, and how many in a row were not."""

    earliest_s: float | None = None
    text: int = 0
    missed: int = 0


def find_credits(title: Title) -> float | None:
    """When a title's closing credits begin, where it ends with some. Raises ``EngineError`` or ``OSError``."""
    require("ffmpeg")
    if title.video is None or title.duration_s < 3 * LEAST_S:
        return None
    first_s = max(title.duration_s - MOST_S, title.duration_s * (1 - MOST_SHARE))
    walk = _Walk()
    at_s = title.duration_s - ENDS_S
    while at_s > first_s and walk.missed < MISSES:
        _look(title, at_s, walk)
        at_s -= STEP_S
    if walk.earliest_s is None or walk.text < 3 or title.duration_s - walk.earliest_s < LEAST_S - STEP_S:
        return None
    return _edge(title, walk.earliest_s, first_s)


def _look(title: Title, at_s: float, walk: _Walk) -> None:
    seen = small_pictures(title, at_s, 0.5, 2)
    if len(seen) and is_text(seen[0]):
        walk.earliest_s, walk.missed = at_s, 0
        walk.text += 1
    elif walk.earliest_s is not None or not len(seen) or not black(seen[0]):
        # black behind the credits is no miss, black between two cards is none for long
        walk.missed += 1


def _edge(title: Title, earliest_s: float, first_s: float) -> float:
    """The first picture of what goes on as text, not before ``first_s``."""
    while True:
        from_s = max(0.0, earliest_s - BACK_S)
        seen = small_pictures(title, from_s, earliest_s - from_s + NEAR_S, FINE_RATE)
        first = _begin([is_text(one) for one in seen], [black(one) for one in seen], earliest_s - from_s)
        found_s = from_s + first / FINE_RATE
        if first or from_s <= first_s:
            return scene_at(title, round(found_s, 3))
        earliest_s = found_s


def _begin(text: Sequence[bool], dim: Sequence[bool], at_s: float) -> int:
    """The first picture of the run of text that goes on at ``at_s``: cards may fade and change in it."""
    first = at = max(0, min(len(text) - 1, round(at_s * FINE_RATE)))
    while at >= 0 and (text[at] or dim[at] or any(text[max(0, at - CHANGES) : at])):
        if text[at]:
            first = at
        at -= 1
    return first
