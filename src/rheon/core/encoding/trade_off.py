"""The ways to make a file whose fidelity is measured, in which order, and which of them look better. Pure."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from ..media import Balance
from ..planning.picture.fewer_lines import LINE_SHARES
from .fidelity import Fidelity, together

ORDER = (None, Balance.EVEN, Balance.LEAN, Balance.RICH, Balance.LIGHT, Balance.FULL)
"""What was set by hand, then the middle and both ends: they say most of the curve."""
NOTICED = {True: 0.5, False: 0.1}
"""By so much more, of VMAF or in dB of SSIM, a smaller picture has to keep to be worth a proposal."""
BESIDE = 1.3
"""So many times larger or smaller than all that was measured, a size is not judged by it."""
FAIR = 1.05
"""An average that came out as so many times the other is the same one, in a few seconds."""


@dataclass(frozen=True, slots=True)
class Way:
    """A way to make the file: at a balance or (``None``) at the rate by hand, in the planned size or so many steps
    smaller.
    """

    balance: Balance | None
    step: int = 0


SMALLER = range(1, len(LINE_SHARES) + 1)
WAYS = (*(Way(one) for one in ORDER), *(Way(one, step) for step in SMALLER for one in (None, *Balance)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """What a way to make the file keeps, in the turns in which it was measured, of so many that there are; how large it
    is expected to be, in how many lines, and what pins make it.
    """

    turns: tuple[Fidelity, ...]
    of_turns: int
    size_bytes: int
    lines: int
    pins: Mapping[str, str]

    @property
    def score(self) -> Fidelity:
        return together(self.turns)

    def in_turns(self, count: int) -> Fidelity:
        """What the first turns found: ways are compared by the same seconds."""
        return together(self.turns[:count])


def better(points: Mapping[Way, Point]) -> dict[Balance | None, Point]:
    """Of the smaller pictures that keep more than the planned ones do at their size, the best for each balance."""
    best = _best(_gains(points))
    return {balance: points[best[balance]] for balance in (*Balance, None) if balance in best}


def _best(gains: Mapping[Way, float]) -> dict[Balance | None, Way]:
    """The least gain comes first, so that the greatest stays; of two that gain alike the larger picture does."""
    return {way.balance: way for way in sorted(gains, key=lambda way: (gains[way], -way.step))}


def _gains(points: Mapping[Way, Point]) -> dict[Way, float]:
    """By how much smaller pictures keep more than the planned ones do at their size, where that would be noticed."""
    found = {}
    for way, point in points.items():
        planned = points.get(Way(way.balance))
        if not way.step or planned is None:
            continue
        count, score = len(point.turns), point.score
        if way.balance:
            at_size = _mean_at(point.size_bytes, _curve(points, count))
        else:
            beside = planned.in_turns(count)
            at_size = beside.mean if score.size_bytes <= beside.size_bytes * FAIR else None
        if at_size is not None and score.mean > at_size + NOTICED[score.model is not None]:
            found[way] = score.mean - at_size
    return found


def _curve(points: Mapping[Way, Point], count: int) -> dict[int, float]:
    """What the balances keep, by size, in the first turns."""
    planned = [point for way, point in points.items() if way.balance and not way.step]
    return {point.size_bytes: point.in_turns(count).mean for point in planned}


def _mean_at(size_bytes: int, curve: Mapping[int, float]) -> float | None:
    """The mean score at a size, by the logarithms of the sizes around it; ``None`` far beside all of them."""
    sizes = sorted(curve)
    if not sizes or not sizes[0] / BESIDE <= size_bytes <= sizes[-1] * BESIDE:
        return None
    return float(np.interp(math.log(size_bytes), np.log(sizes), [curve[size] for size in sizes]))


def ways_left(known: Mapping[Way, Point], ways: Collection[Way]) -> Iterator[Way]:
    """What is still to be measured of the ways that there are, in its order: all of them once, then what matters again.

    The fewer the bits, the more fewer lines gain: where a balance gains nothing, finer ones do not either. Nor do even
    fewer lines, where the step before gains nothing.
    """
    gains = _gains(known)
    best = set(_best(gains).values())
    in_vain: set[int] = set()
    waits = False
    for way in (one for one in WAYS if one in ways):
        if way in known:
            if way.step and way.balance and way not in gains:
                in_vain.add(way.step)
        elif way.step > 1 and Way(way.balance, way.step - 1) not in gains:
            continue
        elif not (way.step and way.balance and (waits or way.step in in_vain)):
            yield way
            waits = True
    for way in WAYS:
        if way in known and len(known[way].turns) < known[way].of_turns and (not way.step or way in best):
            yield way
