"""When a piece of work will be done: from what was expected of it, and from how it goes. Pure."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..planning import Estimate
from .progress import Progress

EXPECTED_COUNTS = 0.005
"""What was expected counts as much as so large a share of the work that was seen."""
EXPECTED_SPREAD = 0.5
"""How far off it may be: a standard deviation, of the logarithm of times, as all spreads here."""
BLOCK = 0.04
"""In shares of the work so large, it is seen how evenly it goes."""
USUAL_SPREAD, USUAL_COUNTS = 0.2, 8
"""Between blocks; and as so many blocks that counts, until enough of them were seen."""
ALIKE = 0.16
"""Pictures stay alike over such a share of the work: what lies further apart says nothing of each other."""
REACH = 1.5
"""In standard deviations: 1.28 hold four in five where a spread is known, and here it is seen in a few blocks."""
LEAST_S = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Left:
    """Seconds of work that are left, and the range that holds the truth in four of five cases."""

    left_s: float
    low_s: float
    high_s: float


class Forecast:
    """Work of which so many seconds were expected, followed by a check; ``goes`` is told how it goes."""

    def __init__(self, making_s: float, checking_s: float = 0.0) -> None:
        self._making_s = max(LEAST_S, making_s)
        self._checking_s = checking_s
        self._fraction = 0.0
        self._seen = 0.0
        self._times = 1.0
        self._begun: tuple[float, float] | None = None
        self._block_at = (0.0, 0.0)
        self._blocks: list[float] = []
        self._check_begun_s: float | None = None

    @classmethod
    def of(cls, expected: Estimate) -> Forecast:
        """Of what a plan expects."""
        return cls(expected.time_s - expected.checking_s, expected.checking_s)

    def goes(self, step: Progress) -> Left:
        """What is left at a step of the making, or of the check that follows."""
        if step.fraction < 1:
            return self.went(step.fraction, step.worked_s)
        return self.checks(step.checked, step.worked_s)

    def went(self, fraction: float, worked_s: float) -> Left:
        """What is left, ``fraction`` of the making being done after ``worked_s`` seconds."""
        if fraction > 0 and worked_s > 0:
            if self._begun is None:
                # programs start and encoders fill before anything comes out: that says nothing of how it goes on
                self._begun = self._block_at = (fraction, worked_s)
            begun, begun_s = self._begun
            self._fraction, self._seen = fraction, fraction - begun
            if self._seen > 0 and worked_s > begun_s:
                self._times = (worked_s - begun_s) / (self._seen * self._making_s)
            self._block(fraction, worked_s)
        return self.left()

    def checks(self, share: float, worked_s: float) -> Left:
        """What is left once all is made, so much of it having been checked after ``worked_s`` seconds."""
        if self._check_begun_s is None:
            self._check_begun_s = worked_s
        took_s = worked_s - self._check_begun_s
        expected_s = max(LEAST_S, self._checking_s)
        seen = share / (share + EXPECTED_COUNTS) if share > 0 and took_s > 0 else 0.0
        times = took_s / (share * expected_s) if seen else 1.0
        left_s = (1 - share) * expected_s * math.exp(seen * math.log(times))
        return _ranged(left_s, math.hypot((1 - seen) * EXPECTED_SPREAD, USUAL_SPREAD))

    def _block(self, fraction: float, worked_s: float) -> None:
        begun, begun_s = self._block_at
        if fraction - begun >= BLOCK and worked_s > begun_s:
            self._blocks.append((worked_s - begun_s) / ((fraction - begun) * self._making_s))
            self._block_at = (fraction, worked_s)

    def left(self) -> Left:
        seen = self._seen / (self._seen + EXPECTED_COUNTS)
        rest_s = (1 - self._fraction) * self._making_s + self._checking_s
        left_s = rest_s * math.exp(seen * math.log(self._times))
        spread = math.hypot((1 - seen) * EXPECTED_SPREAD, math.sqrt(self._uneven()))
        return _ranged(left_s, spread)

    def _uneven(self) -> float:
        """How much what is left may differ from what was seen, as a variance."""
        mean = math.log(self._times)
        squares = sum((math.log(block) - mean) ** 2 for block in self._blocks)
        between = (USUAL_COUNTS * USUAL_SPREAD**2 + squares) / (USUAL_COUNTS + len(self._blocks))
        return between * (_of_mean(self._fraction) + _of_mean(1 - self._fraction))


def _ranged(left_s: float, spread: float) -> Left:
    return Left(
        left_s=left_s,
        low_s=max(0.0, min(left_s - LEAST_S, left_s * math.exp(-REACH * spread))),
        high_s=max(left_s + LEAST_S, left_s * math.exp(REACH * spread)),
    )


def _of_mean(share: float) -> float:
    """The variance of a mean over a share of the work, of one place's."""
    return ALIKE / (share + ALIKE)
