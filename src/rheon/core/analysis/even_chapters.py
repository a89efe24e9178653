"""Chapters for a title that has none: at even distances, moved onto changes of scene."""

from __future__ import annotations

from collections.abc import Iterator

from ..media import Title
from ..media.joined import part_at
from .scenes import changes_between

NEAR_SHARE, NEAR_S = 0.25, 12.0
"""How far a chapter is moved at most: of the distance, and in seconds."""
LAST_SHARE = 0.5
"""The last chapter is at least so much of the distance long."""


def even_chapters(title: Title, every_s: float) -> list[float]:
    """Where chapters of about ``every_s`` seconds begin, the first at 0. Raises ``EngineError`` or ``OSError``."""
    return [0.0, *(_on_scene(title, mark, every_s) for mark in _marks(title.duration_s, every_s))]


def _marks(duration_s: float, every_s: float) -> Iterator[float]:
    at_s = every_s
    while at_s < duration_s - LAST_SHARE * every_s:
        yield at_s
        at_s += every_s


def _on_scene(title: Title, mark_s: float, every_s: float) -> float:
    """The change of scene nearest to a mark; the mark itself where none is near."""
    if title.video is None:
        return mark_s
    placed = part_at(title, mark_s)
    near_s, own_s = min(NEAR_S, NEAR_SHARE * every_s), mark_s - placed.at_s
    found = changes_between(placed.part, max(0.0, own_s - near_s), min(placed.part.duration_s, own_s + near_s))
    nearest = min(found, key=lambda one: abs(one - own_s), default=own_s)
    return round(placed.at_s + nearest, 3)
