"""What samples of a title's pictures took, and seconds of a file."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

UNSURE_ELSEWHERE = 1.2
"""So many times as much or as little may be taken where other parts of a title are kept, besides what was unsure."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Samples:
    """Bits for each stored pixel at two constant qualities of H.264 (the coarse one has the higher number)."""

    coarse_quality: int
    coarse_bits: float
    fine_quality: int
    fine_bits: float

    def bits_at(self, quality: int) -> float:
        """Bits for each pixel at another quality: rates grow by a constant factor with each step of it."""
        part = (self.coarse_quality - quality) / (self.coarse_quality - self.fine_quality)
        return self.coarse_bits * math.exp(part * math.log(self.fine_bits / self.coarse_bits))


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredRate:
    """What a file's picture takes, by seconds of it: bits a second, with bounds that should hold in four of five."""

    bps: float
    low_bps: float
    high_bps: float

    def elsewhere(self) -> MeasuredRate:
        """The same picture of other stretches of the title, of which nothing was made."""
        return replace(self, low_bps=self.low_bps / UNSURE_ELSEWHERE, high_bps=self.high_bps * UNSURE_ELSEWHERE)
