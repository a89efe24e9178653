"""Where the pictures of a title need the most bits, from short stretches that are coded for the purpose."""

from __future__ import annotations

import statistics
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..engine import require
from ..errors import Stopped
from ..media import KeptRange, Title
from ..media.kept import middle_of, moments_in
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


def most_demanding(
    title: Title, kept: Sequence[KeptRange], length_s: float, should_stop: Callable[[], bool] | None = None
) -> Demand:
    """The stretch of so many seconds, inside one of those that are ``kept``, whose pictures need the most bits.

    Each of them has to be so long at least. Where there are no pictures, or none can be read, it is the middle of the
    longest. Raises ``EngineError`` or ``Stopped``.
    """
    if title.video is not None:
        require("ffmpeg")
        if bits := dict(_sampled(title, kept, should_stop)):
            return _most(kept, length_s, bits)
    return Demand(stretch=middle_of(kept, length_s), times_mean=1.0, places=0)


def _sampled(
    title: Title, kept: Sequence[KeptRange], should_stop: Callable[[], bool] | None
) -> Iterator[tuple[float, float]]:
    """Moments from all over what is kept, with bits a pixel around each; where nothing can be read is left out."""
    total_s = sum(one.length_s for one in kept)
    count = max(1, min(MOST_PLACES, int(total_s / LEAST_APART_S)))
    for moment_s, within in moments_in(kept, count):
        if should_stop and should_stop():
            raise Stopped("The work was stopped.")
        begin_s = min(moment_s, max(within.from_s, within.until_s - PLACE_S))
        if bits := coarse_bits_at(title, begin_s, PLACE_S):
            yield begin_s + PLACE_S / 2, bits


def _most(kept: Sequence[KeptRange], length_s: float, bits: Mapping[float, float]) -> Demand:
    """Between two moments, what is needed is taken to change evenly."""

    def needed(window: KeptRange) -> float:
        points = np.linspace(window.from_s, window.until_s, POINTS)
        return float(np.mean(np.interp(points, list(bits), list(bits.values()))))

    best = max((window for one in kept for window in _windows(one, length_s)), key=needed)
    mean = statistics.fmean(bits.values())
    return Demand(stretch=best, times_mean=needed(best) / mean, places=len(bits))


def _windows(within: KeptRange, length_s: float) -> list[KeptRange]:
    """Stretches of the length inside another, close to each other."""
    spare_s = within.length_s - length_s
    count = min(MOST_WINDOWS, int(spare_s / length_s * WINDOWS_A_LENGTH)) + 1
    begins = np.linspace(within.from_s, within.from_s + spare_s, count)
    return [KeptRange(from_s=float(begin_s), until_s=float(begin_s) + length_s) for begin_s in begins]
