"""How strongly noise and banding are taken out of a picture, and what that leaves to be coded. Pure."""

from __future__ import annotations

from ...media import NOISY, VideoStream
from ..decisions import Pins
from ..decisions.picture import DEBAND, DENOISE
from ..decisions.picture.common import LIGHT, OFF, STRONG

TIMES_NOISE = {LIGHT: 1.0, STRONG: 2.0}
MOST_NOISE = 6.0
STEPS = {LIGHT: 2.2, STRONG: 4.2}
"""Of eight bits: larger ones are edges."""
LEFT = {OFF: 1.0, LIGHT: 0.8, STRONG: 0.4}
"""Of the bits of a noisy picture (measured, clean ones under noise: 0.80 to 0.81, and 0.20 to 0.51)."""


def denoise_for(video: VideoStream, pins: Pins) -> float:
    """Differences up to which a picture is smoothed, in steps of eight bits; 0 for none.

    By what was measured of the source; noise that coding has worn down is seen as less than it was.
    """
    times = TIMES_NOISE.get(pins.of(DENOISE) or OFF, 0.0)
    return round(times * min(MOST_NOISE, max(NOISY, video.noise or 0.0)), 2)


def deband_for(pins: Pins) -> float:
    """Steps that are smoothed, in those of eight bits; 0 for none."""
    return STEPS.get(pins.of(DEBAND) or OFF, 0.0)


def left_to_code(video: VideoStream, pins: Pins) -> float:
    """The share of the usual bits that is left when noise is gone; 1 where there was none to speak of."""
    return LEFT[pins.of(DENOISE) or OFF] if video.is_noisy else 1.0
