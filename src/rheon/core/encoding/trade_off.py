"""The ways to make a file whose fidelity is measured, in which order, and which of them look better. Pure."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from ..media import Balance
from .fidelity import Fidelity

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
    """A way to make the file: at a balance or (``None``) at the rate by hand, in the planned size or in fewer lines."""

    balance: Balance | None
    fewer: bool = False


WAYS = (*(Way(one) for one in ORDER), *(Way(one, fewer=True) for one in (None, *Balance)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """What a way to make the file keeps, how large it is expected to be, in how many lines, and what pins make it."""

    score: Fidelity
    size_bytes: int
    lines: int
    pins: Mapping[str, str]


def better(points: Mapping[Way, Point]) -> dict[Balance | None, Point]:
    """Smaller pictures that keep more than the planned ones do at their size."""
    curve = {one.size_bytes: one.score.mean for way, one in points.items() if way.balance and not way.fewer}
    found = {}
    for way, point in points.items():
        planned = points.get(Way(way.balance))
        if not way.fewer or planned is None:
            continue
        if way.balance:
            at_size = _mean_at(point.size_bytes, curve)
        else:
            is_fair = point.score.size_bytes <= planned.score.size_bytes * FAIR
            at_size = planned.score.mean if is_fair else None
        if at_size is not None and point.score.mean > at_size + NOTICED[point.score.model is not None]:
            found[way.balance] = point
    return found


def _mean_at(size_bytes: int, curve: Mapping[int, float]) -> float | None:
    """The mean score at a size, by the logarithms of the sizes around it; ``None`` far beside all of them."""
    sizes = sorted(curve)
    if not sizes or not sizes[0] / BESIDE <= size_bytes <= sizes[-1] * BESIDE:
        return None
    return float(np.interp(math.log(size_bytes), np.log(sizes), [curve[size] for size in sizes]))


def ways_left(known: Mapping[Way, Point], ways: Collection[Way]) -> Iterator[Way]:
    """What is still to be measured of the ways that there are, in its order.

    The fewer the bits, the more fewer lines gain: where a balance gains nothing, finer ones do not either.
    """
    gaining = better(known)
    hopeless = False
    for way in (one for one in WAYS if one in ways):
        if way not in known:
            if not (way.fewer and way.balance and hopeless):
                yield way
            hopeless = True
        elif way.fewer and way.balance and way.balance not in gaining:
            hopeless = True
