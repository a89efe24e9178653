"""What holds the picture's rate down, set by hand or by a limit for one file, and whether it is enough. Pure."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ...devices import DeviceProfile
from ...errors import PlanError
from ...formats import VideoEncoder
from ..decisions import Pins
from ..decisions.form import Unreadable
from ..decisions.picture import RATE
from ..decisions.picture.rate import AVERAGE, QUALITY, SIZE, RatePin, check
from ..request import PlanRequest
from . import rates
from .complexity import source_complexity
from .geometry import Geometry

STARVED = 0.95
"""With enough bits for less than such a share of the pixels, fewer look better."""
LIMIT_SHARE, SOUND_MARGIN = 0.97, 1.05
"""What of a limit for one file is planned with, and what sound may take more than planned: encoders are near theirs."""
FULL_BUFFER_S = 2.0
"""So many seconds of peak may come on top of what flows in: the buffer is full at the start (ITU-T H.264, C.3)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundRates:
    """What all sound of an output is expected to take, and what it takes at most."""

    expected_bps: float
    most_bps: float


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldRate:
    """``wish`` is ``None`` where nothing was set; ``tags_room`` bytes go to tags."""

    request: PlanRequest
    device: DeviceProfile
    codec: str
    wish: RatePin | None
    sound: SoundRates
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
        return float(rates.bitrate_for_size(left_bytes, self.request.title.duration_s, self.sound.expected_bps))

    @property
    def file_bound_bps(self) -> int | None:
        """The rate at which even a file that is all peaks stays inside the limit for one file; ``None`` without one.

        Raises ``PlanError`` where sound and time leave the picture nothing.
        """
        limit, duration_s = self.device.limits.largest_file_bytes, self.request.title.duration_s
        if limit is None or duration_s <= 0:
            return None
        whole_bps = (limit * LIMIT_SHARE - self.tags_room) * 8 / (duration_s + FULL_BUFFER_S)
        left_bps = int(whole_bps - rates.muxing_bps(whole_bps) - self.sound.most_bps * SOUND_MARGIN)
        if left_bps < rates.LEAST_BPS:
            raise PlanError(
                "{device} takes files of {megabytes:.0f} MB at most, which is too little for all of this title.",
                device=self.device.name,
                megabytes=limit / 1e6,
                advice="Keep a part of it only, split it by its chapters, or give its sound fewer bits.",
            )
        return left_bps

    @property
    def most_bps(self) -> float | None:
        """The highest mean rate that there may be; ``None`` where nothing holds it down."""
        return self.file_bound_bps if self.mean_bps is None else self.mean_bps

    def enough_for(self, made: Geometry, rate: Fraction) -> float:
        """The share of the pixels that has bits enough, at so many pictures a second as they count; at most 1."""
        if (bps := self.most_bps) is None:
            return 1.0
        return rates.floor_share(self.codec, made.width * made.height, rate, bps, source_complexity(self.request))


def asked_bytes(pins: Pins) -> int | None:
    """The size of the whole file that was set by hand."""
    wish = pins.of(RATE)
    return wish.value * 10**6 if wish is not None and wish.mode == SIZE else None


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
