"""Finding the constant quality at which a picture keeps so much: between what was measured, then nearer. Pure."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, field

LEAST_LOST = 0.1
"""Of a score, in a step: where nothing is lost any more, the search goes on in small steps."""
LARGEST_STEP, MOST_TRIES = 6, 5


def quality_for(wanted: float, points: Sequence[tuple[int, float]]) -> int | None:
    """The constant quality whose mean score is expected to be ``wanted``, between measured (quality, mean).

    ``None`` where nothing that was measured comes near enough for it to be told.
    """
    ordered = sorted(set(points))
    for (fine, high), (coarse, low) in itertools.pairwise(ordered):
        if low <= wanted <= high and high > low:
            return fine + round((high - wanted) / (high - low) * (coarse - fine))
    return None


@dataclass(slots=True, kw_only=True)
class RateSearch:
    """The search for the quality that keeps ``wanted``, within ``near`` where that can be; one is tried after another.

    A higher quality keeps less. How much less is expected by measured ``points`` (quality, mean) of other presets;
    ``tried`` are the means of those that were tried themselves.
    """

    wanted: float
    near: float
    points: Sequence[tuple[int, float]]
    tried: dict[int, float] = field(default_factory=dict)

    def after(self, quality: int, mean: float) -> int:
        """What to try once a quality has been; one that was tried already is what was found."""
        self.tried[quality] = mean
        best = min(self.tried, key=lambda one: (abs(self.tried[one] - self.wanted), one))
        if abs(self.tried[best] - self.wanted) <= self.near:
            return best
        following = self._following(best)
        return best if following in self.tried or len(self.tried) >= MOST_TRIES else following

    def _following(self, best: int) -> int:
        above = max((quality for quality, mean in self.tried.items() if mean >= self.wanted), default=None)
        below = min((quality for quality, mean in self.tried.items() if mean < self.wanted), default=None)
        if above is not None and below is not None:
            share = (self.tried[above] - self.wanted) / (self.tried[above] - self.tried[below])
            return above + round(share * (below - above))
        # a step at least: other presets, by which steps are measured, may lose more
        missing = abs(self.tried[best] - self.wanted)
        steps = max(1, min(LARGEST_STEP, round(missing / self._lost_per_step(best))))
        return best + (steps if below is None else -steps)

    def _lost_per_step(self, quality: int) -> float:
        """How much of the score a step takes away around a quality."""
        pairs = itertools.pairwise(sorted(dict(self.points).items()))
        found = [(abs(quality - (a + b) / 2), (high - low) / (b - a)) for (a, high), (b, low) in pairs]
        return max(LEAST_LOST, min(found)[1]) if found else LEAST_LOST
