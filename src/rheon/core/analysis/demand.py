"""Where the pictures of a title need the most bits, from short stretches that are coded for the purpose."""

from __future__ import annotations

import statistics
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..engine import require
from ..errors import Stopped
from ..media import KeptRange, Title
from .complexity import coarse_bits_at

MOST_PLACES = 24
LEAST_APART_S = 5.0
PLACE_S = 1.5
MOST_WINDOWS, WINDOWS_A_LENGTH = 2000, 12
POINTS = 24
"""Of a window, at which what it needs is taken."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Demand:
    """A stretch, and how many times as many bits as on average its pictures need, as far as ``places`` tell."""

    stretch: KeptRange
    times_mean: float
    places: int


@dataclass(frozen=True, slots=True, kw_only=True)
class _Place:
    """A moment of the title, and bits a pixel from there on."""

    at_s: float
    bits: float


def most_demanding(
    title: Title, kept: Sequence[KeptRange], length_s: float, should_stop: Callable[[], bool] | None = None
) -> Demand:
    """The stretch of so many seconds, inside one of those that are ``kept``, whose pictures need the most bits.

    One of them at least has to be so long. Where there are no pictures, or none can be read, it is the middle of the
    longest. Raises ``EngineError`` or ``Stopped``.
    """
    longest = max(kept, key=lambda one: one.length_s)
    begin_s = (longest.from_s + longest.until_s - length_s) / 2
    middle = KeptRange(from_s=begin_s, until_s=begin_s + length_s)
    if title.video is None:
        return Demand(stretch=middle, times_mean=1.0, places=0)
    require("ffmpeg")
    places = []
    for at_s in _moments(kept, length_s):
        if should_stop and should_stop():
            raise Stopped("The work was stopped.")
        if bits := coarse_bits_at(title, at_s, PLACE_S):
            places.append(_Place(at_s=at_s, bits=bits))
    if not places:
        return Demand(stretch=middle, times_mean=1.0, places=0)
    needs = {window: _needed(window, places) for one in kept for window in _windows(one, length_s)}
    best = max(needs, key=lambda window: needs[window])
    mean = statistics.fmean(place.bits for place in places)
    return Demand(stretch=best, times_mean=needs[best] / mean, places=len(places))


def _moments(kept: Sequence[KeptRange], length_s: float) -> list[float]:
    """Evenly over the stretches that are long enough, and not so close to an end that nothing is left to read."""
    long_enough = [one for one in kept if one.length_s >= length_s]
    total_s = sum(one.length_s for one in long_enough)
    count = max(1, min(MOST_PLACES, int(total_s / LEAST_APART_S)))
    found = []
    for number in range(count):
        into_s = total_s * (number + 0.5) / count
        for one in long_enough:
            if into_s < one.length_s:
                found.append(min(one.from_s + into_s, max(one.from_s, one.until_s - PLACE_S)))
                break
            into_s -= one.length_s
    return found


def _windows(within: KeptRange, length_s: float) -> list[KeptRange]:
    """Stretches of the length inside another, close to each other; none where it is shorter."""
    spare_s = within.length_s - length_s
    if spare_s < 0:
        return []
    count = min(MOST_WINDOWS, int(spare_s / length_s * WINDOWS_A_LENGTH)) + 1
    begins = [within.from_s + spare_s * number / max(1, count - 1) for number in range(count)]
    return [KeptRange(from_s=begin_s, until_s=begin_s + length_s) for begin_s in begins]


def _needed(window: KeptRange, places: Sequence[_Place]) -> float:
    """Bits a pixel in a stretch: between two places they are taken to change evenly."""
    moments = np.linspace(window.from_s, window.until_s, POINTS)
    middles = [place.at_s + PLACE_S / 2 for place in places]
    return float(np.mean(np.interp(moments, middles, [place.bits for place in places])))
