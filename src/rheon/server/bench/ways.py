"""The ways to make a file whose fidelity is measured, in which order, and which of them look better. Pure."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass

from rheon.core.encoding import Fidelity
from rheon.core.planning import Balance, mean_at

ORDER = (None, Balance.EVEN, Balance.LEAN, Balance.RICH, Balance.LIGHT, Balance.FULL)
"""What was set by hand, then the middle and both ends: they say most of the curve."""
NOTICED = {True: 0.5, False: 0.1}
"""By so much more, of VMAF or in dB of SSIM, a smaller picture has to keep to be worth a proposal."""
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
    curve = [(one.size_bytes, one.score.mean) for way, one in points.items() if way.balance and not way.fewer]
    found = {}
    for way, point in points.items():
        planned = points.get(Way(way.balance))
        if not way.fewer or planned is None:
            continue
        if way.balance:
            at_size = mean_at(point.size_bytes, curve)
        else:
            is_fair = point.score.size_bytes <= planned.score.size_bytes * FAIR
            at_size = planned.score.mean if is_fair else None
        if at_size is not None and point.score.mean > at_size + NOTICED[point.score.model is not None]:
            found[way.balance] = point
    return found


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
