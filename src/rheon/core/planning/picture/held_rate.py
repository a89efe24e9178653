"""A rate that was set by hand, and whether it is enough for the pictures. Pure."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ...formats import VideoEncoder
from ..decisions import Pins
from ..decisions.form import Unreadable
from ..decisions.picture import RATE
from ..decisions.picture.rate import AVERAGE, QUALITY, RatePin, check
from ..request import PlanRequest
from . import rates
from .complexity import source_complexity
from .geometry import Geometry

STARVED = 0.95
"""With enough bits for less than such a share of the pixels, fewer look better."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RateByHand:
    """``wish`` is ``None`` where nothing was set; ``sound_bps`` goes to the sound, ``tags_room`` bytes to tags."""

    request: PlanRequest
    codec: str
    wish: RatePin | None
    sound_bps: float
    tags_room: int

    @property
    def mean_bps(self) -> float | None:
        """The mean rate that was set or that a size leaves; ``None`` at constant quality."""
        wish = self.wish
        if wish is None or wish.mode == QUALITY:
            return None
        if wish.mode == AVERAGE:
            return float(wish.value * 1000)
        left_bytes = wish.value * 1e6 - self.tags_room
        return float(rates.bitrate_for_size(left_bytes, self.request.title.duration_s, self.sound_bps))

    def enough_for(self, made: Geometry, rate: Fraction) -> float:
        """The share of the pixels that has bits enough, at so many pictures a second as they count; at most 1."""
        if (bps := self.mean_bps) is None:
            return 1.0
        return rates.floor_share(self.codec, made.width * made.height, rate, bps, source_complexity(self.request))


def wished_rate(pins: Pins, encoder: VideoEncoder) -> RatePin | None:
    """The rate by hand, inside what this encoder's scale holds. Raises ``BadPin``."""
    wish = pins.of(RATE)
    if wish is None or wish.mode != QUALITY:
        return wish
    if not encoder.quality:
        raise RATE.refuse("What makes this picture holds an average rate or a size, not a constant quality.")
    try:
        check(wish, encoder.scale)
    except Unreadable as error:
        raise RATE.refuse(error.what, **error.facts) from None
    return wish
