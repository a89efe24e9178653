"""How loud a title is along its time."""

from __future__ import annotations

import math
import re

from ..commands.measuring import sound_levels
from ..engine import Command, require, run
from ..media import Title
from ..media.joined import places_of
from .excerpts import stretch

LEVELS, LEAST_STEP_S = 480, 0.05
SILENT_DB = -70
MOST_BYTES = 6 << 30
"""More is not read for this alone."""
SAMPLES, SAMPLE_S = 120, 0.6
TIMEOUT_S = 1800


def levels_of(title: Title) -> list[int]:
    """The level (RMS, dBFS) of the first track in at most 480 equal stretches of a title; empty without sound.

    Of very large titles only a moment in each of 120 stretches is heard. Raises ``EngineError`` or ``OSError``.
    """
    require("ffmpeg")
    if not title.audio or not title.duration_s:
        return []
    if title.joined:
        return _of_parts(title)
    if title.size_bytes > MOST_BYTES:
        step_s = title.duration_s / SAMPLES
        return [_heard(title, number * step_s + step_s / 2, SAMPLE_S, SAMPLE_S, 1)[0] for number in range(SAMPLES)]
    step_s = max(LEAST_STEP_S, title.duration_s / LEVELS)
    return _heard(title, 0.0, title.duration_s, step_s, max(1, math.ceil(title.duration_s / step_s - 0.01)))


def _of_parts(title: Title) -> list[int]:
    """The levels of the parts, each for as many steps of the whole as it lasts."""
    step_s = max(LEAST_STEP_S, title.duration_s / LEVELS)
    found: list[int] = []
    for placed in places_of(title.joined):
        steps = round(placed.end_s / step_s) - len(found)
        own = [SILENT_DB] if placed.part.audio[0].absent else levels_of(placed.part)
        found += [own[min(len(own) - 1, int((step + 0.5) / steps * len(own)))] for step in range(steps)]
    return found


def _heard(title: Title, from_s: float, length_s: float, step_s: float, count: int) -> list[int]:
    source = stretch(title, from_s, from_s + length_s)
    said: list[str] = []
    argv = sound_levels(source.view, length_s, step_s)
    run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S, gentle=True, on_line=said.append))
    found = [round(max(SILENT_DB, float(level[1]))) for line in said if (level := re.search(r"RMS_level=(\S+)", line))]
    return (found + [SILENT_DB] * count)[:count]
