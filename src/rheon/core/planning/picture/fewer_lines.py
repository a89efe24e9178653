"""Fewer lines at the same rate, to be measured beside those that are planned: they may look better. Pure."""

from __future__ import annotations

import math
from collections.abc import Mapping
from fractions import Fraction

from ...formats import video_encoder
from ...media import Action, VideoSettings
from ..decisions import Pins
from ..decisions.picture import RATE, SIZE
from ..decisions.picture.rate import QUALITY
from ..decisions.picture.size import even
from .rates import PIXEL_POWER

LINE_SHARES = (Fraction(3, 4), Fraction(1, 2))
"""Shares of the planned lines, the first of which is tried first."""
LEAST_LINES = 180


def fewer_lines(made: VideoSettings, pins: Pins, share: Fraction = LINE_SHARES[0]) -> Mapping[str, str] | None:
    """The pins that leave a share of the lines at about the same rate; ``None`` where the size was set, or is small.

    An average stays as it is; a constant quality becomes finer by as much as fewer pixels take fewer bits.
    """
    lines = even(round(made.height * share))
    if SIZE in pins or made.action is not Action.ENCODE or lines < LEAST_LINES:
        return None
    said = {SIZE.key: str(lines)}
    if made.quality is not None:
        encoder = video_encoder(made.codec, made.encoder)
        finer = round(encoder.halving * -math.log2(share**2) * PIXEL_POWER)
        said[RATE.key] = f"{QUALITY}:{max(encoder.scale[0], made.quality - finer)}"
    return said
