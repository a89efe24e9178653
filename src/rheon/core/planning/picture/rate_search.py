"""Finding the constant quality at which a picture keeps so much: between what was measured, then nearer. Pure."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence

LEAST_LOST = 0.1
"""Of a score, in a step: where nothing is lost any more, the search goes on in small steps."""
LARGEST_STEP = 6


def quality_for(wanted: float, points: Sequence[tuple[int, float]]) -> int | None:
    """The constant quality whose mean score is expected to be ``wanted``, between measured (quality, mean).

    ``None`` where nothing that was measured comes near enough for it to be told.
    """
    ordered = sorted(set(points))
    for (fine, high), (coarse, low) in itertools.pairwise(ordered):
        if low <= wanted <= high and high > low:
            return fine + round((high - wanted) / (high - low) * (coarse - fine))
    return None


def lost_per_step(quality: int, points: Sequence[tuple[int, float]]) -> float:
    """How much of the score a step of quality takes away around a quality, by measured (quality, mean)."""
    pairs = itertools.pairwise(sorted(dict(points).items()))
    found = [(abs(quality - (a + b) / 2), (high - low) / (b - a)) for (a, high), (b, low) in pairs]
    return max(LEAST_LOST, min(found)[1]) if found else LEAST_LOST


def next_quality(wanted: float, tried: Mapping[int, float], per_step: float, near: float) -> int:
    """The quality expected nearest to ``wanted``, by the means of those that were tried: one of them where it is done,
    as it is within ``near``.

    A higher quality keeps less; a step takes about ``per_step`` away.
    """
    best = nearest_quality(wanted, tried)
    if abs(tried[best] - wanted) <= near:
        return best
    above = max((quality for quality, mean in tried.items() if mean >= wanted), default=None)
    below = min((quality for quality, mean in tried.items() if mean < wanted), default=None)
    if above is not None and below is not None:
        share = (tried[above] - wanted) / (tried[above] - tried[below])
        return above + round(share * (below - above))
    nearest = above if above is not None else below
    assert nearest is not None
    # a step at least: other presets, by which steps are measured, may lose more
    steps = max(1, min(LARGEST_STEP, round(abs(tried[nearest] - wanted) / per_step)))
    return nearest + (steps if nearest == above else -steps)


def nearest_quality(wanted: float, tried: Mapping[int, float]) -> int:
    """Of those that were tried, the one that keeps most nearly ``wanted``."""
    return min(tried, key=lambda quality: (abs(tried[quality] - wanted), quality))
