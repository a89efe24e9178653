"""Where a title's pictures change all at once: the first picture of each shot."""

from __future__ import annotations

import re
from collections.abc import Sequence

from ..commands.measuring import picture_times, scene_changes
from ..engine import Command, run
from ..media import Title
from ..media.joined import part_at
from ..media.kept import MEANT_S, steady_rate
from .excerpts import stretch

LOOK_S, STRETCH_S, BACK_S = 60.0, 20.0, 4.0
LEADS_S = 0.5
BEHIND = 0.4
"""Of a picture's time: times from different readings differ by less, and a change so near is the same one."""
NEAR_S = 0.4
STANDS_S = 1.0
"""A picture that stands longer is taken for the next one."""
TIMEOUT_S = 60


def scene_after(title: Title, at_s: float) -> float | None:
    """The next picture within a minute that is quite another one than that before it; ``None`` where none is.

    Raises ``EngineError`` or ``OSError``.
    """
    if title.joined:
        return _in_parts_after(title, at_s)
    begin_s = at_s
    while begin_s < min(title.duration_s, at_s + LOOK_S):
        if found := _changes(title, begin_s, at_s):
            return found[0]
        begin_s += STRETCH_S
    return None


def scene_before(title: Title, at_s: float) -> float | None:
    """The same backwards."""
    if title.joined:
        return _in_parts_before(title, at_s)
    end_s, back_s = min(at_s, title.duration_s), BACK_S
    while end_s > max(0.0, at_s - LOOK_S):
        begin_s = max(0.0, end_s - back_s)
        found = [one for one in _changes(title, begin_s, begin_s, end_s) if one < at_s - _behind_s(title)]
        if found:
            return found[-1]
        end_s, back_s = begin_s, min(STRETCH_S, back_s * 2)
    return None


def _in_parts_after(title: Title, at_s: float) -> float | None:
    """In a join a part's first picture is a change of scene too."""
    placed = part_at(title, at_s)
    found = scene_after(placed.part, at_s - placed.at_s)
    if found is not None:
        return round(placed.at_s + found, 3)
    near = placed.end_s - at_s <= LOOK_S and placed.end_s < title.duration_s - MEANT_S
    return round(placed.end_s, 3) if near else None


def _in_parts_before(title: Title, at_s: float) -> float | None:
    placed = part_at(title, max(0.0, at_s - _behind_s(title)))
    found = scene_before(placed.part, at_s - placed.at_s)
    if found is not None:
        return round(placed.at_s + found, 3)
    return round(placed.at_s, 3) if placed.at_s and at_s - placed.at_s <= LOOK_S else None


def scene_at(title: Title, moment_s: float) -> float:
    """A moment, or the change of scene that it means: the nearest within 0.4 s. Raises as ``scene_after`` does."""
    near = _changes(title, max(0.0, moment_s - NEAR_S), max(0.0, moment_s - NEAR_S), moment_s + NEAR_S)
    meant = [one for one in near if abs(one - moment_s) <= NEAR_S]
    return min(meant, key=lambda one: abs(one - moment_s), default=moment_s)


def changes_between(title: Title, from_s: float, until_s: float) -> list[float]:
    """All changes of scene of a stretch. Raises as ``scene_after`` does."""
    return _changes(title, from_s, from_s, until_s)


def shown_since(title: Title, at_s: float) -> float:
    """When the picture that is shown at a moment came: the moment itself where pictures come evenly, since there it is
    moved onto one. Raises as ``scene_after`` does.
    """
    if title.video is None or steady_rate(title.video) is not None:
        return at_s
    times = pictures_shown(title, max(0.0, at_s - STANDS_S), min(title.duration_s, at_s + MEANT_S * 2))
    return max((time for time in times if time <= at_s + MEANT_S), default=at_s)


def pictures_shown(title: Title, from_s: float, until_s: float) -> list[float]:
    """When each picture of a stretch is shown, as a decoder says. Raises as ``scene_after`` does."""
    source = stretch(title, from_s, until_s)
    said: list[str] = []
    argv = picture_times(source.view, until_s - from_s)
    run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, on_line=said.append))
    return _times(said, from_s)


def _times(said: Sequence[str], from_s: float) -> list[float]:
    return [from_s + float(time[1]) for line in said if (time := re.search(r"pts_time:(-?[\d.]+)", line))]


def _changes(title: Title, begin_s: float, after_s: float, end_s: float | None = None) -> list[float]:
    """Changes from a moment on until another one, or the first one of a while; only those behind ``after_s``."""
    if title.video is None or title.duration_s - begin_s < LEADS_S:
        return []
    from_s = max(0.0, begin_s - LEADS_S)
    length_s = min(title.duration_s, begin_s + STRETCH_S if end_s is None else end_s + LEADS_S) - from_s
    source = stretch(title, from_s, from_s + length_s)
    said: list[str] = []
    behind_s = _behind_s(title)
    argv = scene_changes(source.view, after_s + behind_s - from_s, length_s, first_only=end_s is None)
    run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, on_line=said.append))
    return [round(time, 3) for time in _times(said, from_s) if time > after_s + behind_s]


def _behind_s(title: Title) -> float:
    return BEHIND / float(title.video.frame_rate) if title.video and title.video.frame_rate else 0.01
