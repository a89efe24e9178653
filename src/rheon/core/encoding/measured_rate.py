"""What the picture of a whole file takes, by stretches of it that were made as it will be. Pure."""

from __future__ import annotations

import itertools
import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from ..engine.packets import Packets
from ..media import MeasuredRate, OutputSettings

FAR_OFF = (1.64, 1.53, 1.48, 1.44)
"""How many standard errors the mean lies off at most in four of five cases, of four stretches and more (Student)."""
LEAST_STRETCHES = 4
UNSURE_STRETCHES, UNSURE_WHOLE = 0.08, 0.03
"""How far off the figure may be whatever the stretches say: what lasts is coded otherwise in a few seconds than in a
whole file.
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """So many pictures that follow each other, the bytes of the first and of all others."""

    pictures: int
    first_bytes: int
    others_bytes: int


def stretches_in(packets: Packets, lengths_s: Sequence[float]) -> tuple[Stretch, ...]:
    """What each stretch of a file took that follow each other in it, each of so many seconds."""
    shown = sorted(zip(packets.times, packets.sizes, strict=True))
    if len(shown) < 2:
        return ()
    found, end_s = [], shown[0][0]
    near_s = statistics.median(other[0] - one[0] for one, other in itertools.pairwise(shown)) / 2
    for length_s in lengths_s:
        begin_s, end_s = end_s, end_s + length_s
        sizes = [size for at_s, size in shown if begin_s - near_s <= at_s < end_s - near_s]
        if sizes:
            found.append(Stretch(pictures=len(sizes), first_bytes=sizes[0], others_bytes=sum(sizes[1:])))
    return tuple(found)


def measured_rate(turns: Sequence[Sequence[Stretch]], of_turns: int, made: OutputSettings) -> MeasuredRate | None:
    """Of a whole file at a constant quality, by the stretches of each of its turns; ``None`` where a rate says it
    already, or too little was made. A single turn is all of the file.

    Only the last turn counts: what it makes goes on for longer. Each stretch begins with a picture that stands by
    itself; in a file there is one of them for each key interval.
    """
    video = made.video
    if video is None or video.quality is None or len(turns) < of_turns or not (stretches := turns[-1]):
        return None
    per_second = 8 * float(video.frame_rate)
    pictures = sum(one.pictures for one in stretches)
    if of_turns == 1:
        bps = sum(one.first_bytes + one.others_bytes for one in stretches) / pictures * per_second
        return _around(bps, UNSURE_WHOLE)
    if len(stretches) < LEAST_STRETCHES or any(one.pictures < 2 for one in stretches):
        return None
    rates = [_lasting(one, video.keyframe_frames) * per_second for one in stretches]
    mean = sum(rate * one.pictures for rate, one in zip(rates, stretches, strict=True)) / pictures
    left = max(0.0, 1 - pictures / (made.duration_s * float(video.frame_rate))) if made.duration_s else 1.0
    error = statistics.stdev(rates) / math.sqrt(len(rates)) * math.sqrt(left)
    far = FAR_OFF[min(len(rates) - LEAST_STRETCHES, len(FAR_OFF) - 1)]
    return _around(mean, math.hypot(UNSURE_STRETCHES, far * error / mean) if mean else UNSURE_STRETCHES)


def _lasting(one: Stretch, key_interval: int) -> float:
    """Bytes for each picture where this goes on."""
    other = one.others_bytes / (one.pictures - 1)
    return other + max(0.0, one.first_bytes - other) / max(1, key_interval)


def _around(bps: float, unsure: float) -> MeasuredRate:
    return MeasuredRate(bps=round(bps, 1), low_bps=round(bps / (1 + unsure), 1), high_bps=round(bps * (1 + unsure), 1))
