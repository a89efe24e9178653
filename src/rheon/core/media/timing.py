"""At which rate pictures come, judged by their own times. Pure."""

from __future__ import annotations

import itertools
import math
import statistics
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

STANDARD = tuple(
    Fraction(*pair)
    for pair in (
        (24000, 1001), (24, 1), (25, 1), (30000, 1001), (30, 1), (48, 1), (50, 1), (60000, 1001), (60, 1),
        (10, 1), (12, 1), (25, 2), (15000, 1001), (15, 1), (20, 1), (100, 1), (120000, 1001), (120, 1),
    )
)  # fmt: skip
LEAST_PICTURES, GLANCE_PICTURES = 5, 240
JITTER = 0.3
"""Of a picture's time: field times put on film's rate stray by a tenth, rounded milliseconds by less."""
STEADY = 0.97
QUICK = 0.25
SNAP = Fraction(1, 200)
SAME = Fraction(1, 10_000)
FASTEST = Fraction(120)


@dataclass(frozen=True, slots=True, kw_only=True)
class Timing:
    """The rate of a stream's pictures; of its quick parts where they come at changing distances (``variable``)."""

    rate: Fraction
    variable: bool = False


def find_timing(times: Sequence[float], declared: Sequence[Fraction]) -> Timing | None:
    """Judge the times (seconds, any order) of consecutive pictures; ``None`` where they are too few.

    ``declared`` are rates that the container names; they win where the times fit others no better.
    """
    ordered = sorted(at for at in times if not math.isnan(at))
    if len(ordered) < LEAST_PICTURES or ordered[-1] <= ordered[0]:
        return None
    best: tuple[float, Fraction] | None = None
    for rate in _candidates(ordered, declared):
        if _strays(ordered[:GLANCE_PICTURES], rate) is None:
            continue
        strays = _strays(ordered, rate)
        if strays is not None and (best is None or strays < best[0] - 0.02):
            best = (strays, rate)
    if best is not None:
        return Timing(rate=best[1])
    return Timing(rate=_quick_rate(ordered, declared), variable=True)


def _candidates(times: Sequence[float], declared: Sequence[Fraction]) -> Iterator[Fraction]:
    mean = Fraction((len(times) - 1) / (times[-1] - times[0])).limit_denominator(2000)
    named = [next((known for known in STANDARD if abs(known - rate) <= known * SAME), rate) for rate in declared]
    yield from dict.fromkeys([*named, *STANDARD, *([mean] if mean > 0 else [])])


def _strays(times: Sequence[float], rate: Fraction) -> float | None:
    """How far the times stray at most from a steady rate, in pictures; ``None`` where they don't keep to it."""
    places = [(at - times[0]) * float(rate) for at in times]
    middle = statistics.median(_offset(place) for place in places)
    counted = [round(place - middle) for place in places]
    steps = [other - one for one, other in itertools.pairwise(counted)]
    if min(steps) < 1 or sum(step == 1 for step in steps) < STEADY * len(steps):
        return None
    strays = max(abs(place - middle - number) for place, number in zip(places, counted, strict=True))
    return strays if strays <= JITTER else None


def _offset(place: float) -> float:
    return (place + 0.5) % 1.0 - 0.5


def _quick_rate(times: Sequence[float], declared: Sequence[Fraction]) -> Fraction:
    """The rate of the quick parts, and one at which no two pictures fall together where there is such a rate."""
    gaps = sorted(other - one for one, other in itertools.pairwise(times) if other > one)
    quick = gaps[len(gaps) // 10]
    near = [gap for gap in gaps if abs(gap - quick) <= QUICK * quick]
    rate = _snapped(1 / statistics.fmean(near), declared)
    faster = (known for known in sorted({rate, *STANDARD}) if known >= rate)
    return next((known for known in faster if _keeps_all(times, known)), rate)


def _snapped(rate: float, declared: Sequence[Fraction]) -> Fraction:
    known = min((*declared, *STANDARD), key=lambda one: abs(float(one) - rate))
    if abs(float(known) - rate) <= float(known * SNAP):
        return known
    return min(Fraction(rate).limit_denominator(1001), FASTEST)


def _keeps_all(times: Sequence[float], rate: Fraction) -> bool:
    counted = [round((at - times[0]) * float(rate)) for at in times]
    return all(other > one for one, other in itertools.pairwise(counted))
