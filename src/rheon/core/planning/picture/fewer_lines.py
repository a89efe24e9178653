"""Fewer lines at the same rate, to be measured beside those that are planned: they may look better. Pure."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from fractions import Fraction

from ...formats import video_encoder
from ...media import Action, VideoSettings
from ..decisions import Pins
from ..decisions.picture import RATE, SIZE
from ..decisions.picture.size import even

SHARE = Fraction(3, 4)
LEAST_LINES = 180
BESIDE = 1.3
"""So many times larger or smaller than what was measured, a size is still judged by it."""
POWER = 0.75
"""Rates grow with this power of the pixels (as ``rates.floor_share`` has it)."""


def fewer_lines(made: VideoSettings, pins: Pins) -> Mapping[str, str] | None:
    """The pins that make the picture smaller at about the same rate; ``None`` where its size was set, or is small.

    An average stays as it is; a constant quality becomes finer by as much as fewer pixels take fewer bits.
    """
    lines = even(round(made.height * SHARE))
    if SIZE in pins or made.action is not Action.ENCODE or lines < LEAST_LINES:
        return None
    said = {SIZE.key: str(lines)}
    if made.quality is not None:
        encoder = video_encoder(made.codec, made.encoder)
        finer = round(encoder.halving * -math.log2(float(SHARE)) * 2 * POWER)
        said[RATE.key] = f"quality:{max(encoder.scale[0], made.quality - finer)}"
    return said


def mean_at(size_bytes: float, points: Sequence[tuple[int, float]]) -> float | None:
    """The mean score that a curve of (bytes, mean) has at a size; ``None`` far beside its points."""
    ordered = sorted(dict(points).items())
    if len(ordered) < 2 or not ordered[0][0] / BESIDE <= size_bytes <= ordered[-1][0] * BESIDE:
        return None
    pairs = list(itertools.pairwise(ordered))
    (small, low), (large, high) = next((pair for pair in pairs if size_bytes <= pair[1][0]), pairs[-1])
    return low + (high - low) * math.log(size_bytes / small) / math.log(large / small)
