"""What is black and silent at the beginning and at the end of a title: nothing of the programme is in it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from ...commands.measuring import black_and_silent
from ...engine import Command, require, run
from ...media import Title
from ..excerpts import stretch

LOOK_S = 30.0
LEAST_S = 1.0
NEAR_S = 0.3
"""A stretch that begins, or ends, so near the title's own end reaches it: pictures and sound seldom end together."""
TIMEOUT_S = 120

Interval = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Leaders:
    """Until when a title is black and silent at its beginning, and from when at its end; ``None`` where it is not."""

    begins_s: float | None = None
    ends_s: float | None = None


def find_leaders(title: Title) -> Leaders:
    """Look at both ends of a title. Raises ``EngineError`` or ``OSError``."""
    require("ffmpeg")
    if title.video is None:
        return Leaders()
    from_s = max(0.0, title.duration_s - LOOK_S)
    return Leaders(begins_s=at_beginning(_quiet(title, 0.0)), ends_s=at_end(_quiet(title, from_s), title.duration_s))


def at_beginning(quiet: Sequence[Interval]) -> float | None:
    """The end of what begins with the title."""
    return next((until for begin, until in quiet if begin <= NEAR_S and until >= LEAST_S), None)


def at_end(quiet: Sequence[Interval], duration_s: float) -> float | None:
    """The beginning of what ends with the title."""
    found = (begin for begin, until in quiet if until >= duration_s - NEAR_S and duration_s - begin >= LEAST_S)
    return next(found, None)


def both(one: Sequence[Interval], other: Sequence[Interval]) -> list[Interval]:
    """Where two lists of stretches overlap."""
    return sorted((max(a, c), min(b, d)) for a, b in one for c, d in other if max(a, c) < min(b, d))


def _quiet(title: Title, at_s: float) -> list[Interval]:
    source = stretch(title, at_s, min(title.duration_s, at_s + LOOK_S))
    zero_s = (source.view.shown_s or 0.0) - at_s
    said: list[str] = []
    begun = source.view.begun(("-t", f"{LOOK_S + (source.view.shown_s or 0.0):.3f}") if source.feed is None else ())
    run(
        Command(
            argv=black_and_silent(begun, 0 if title.audio else None),
            feed=source.feed,
            timeout_s=TIMEOUT_S,
            gentle=True,
            on_complaint=said.append,
        )
    )
    black = read_intervals(said, "black")
    silent = read_intervals(said, "silence") if title.audio else [(float("-inf"), float("inf"))]
    return [(begin - zero_s, until - zero_s) for begin, until in both(black, silent)]


def read_intervals(said: Sequence[str], name: str) -> list[Interval]:
    """What a detecting filter reports; a stretch whose end is not told goes on to the end."""
    found: list[Interval] = []
    open_at: float | None = None
    for line in said:
        for edge, value in re.findall(rf"{name}_(start|end): ?(-?[\d.]+)", line):
            if edge == "start":
                open_at = float(value)
            elif open_at is not None:
                found.append((open_at, float(value)))
                open_at = None
    return found if open_at is None else [*found, (open_at, float("inf"))]
