"""What speed costs: how large a file of an encoder in hardware is at the fidelity of software's, and how soon made."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from ..media import OutputSettings, Title
from .fidelity import Fidelity, Viewing, measure_fidelity, reference_in
from .hooks import Hooks

LARGER, SMALLER = (1.4, 2.0, 2.8, 4.0, 5.6), (0.7, 0.5)
"""Rates that are tried, times software's, until what is kept is on both sides of what software keeps."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """``size_share`` is how large files are beside those of software that keep as much, ``time_share`` how long they
    take beside them; ``None`` where none that was tried keeps as much, or nothing could be measured. ``title`` is what
    it was measured with.
    """

    size_share: float | None = None
    time_share: float | None = None
    title: str = ""


def measure_cost(
    title: Title, software: OutputSettings, hardware: OutputSettings, work: Path, hooks: Hooks | None = None
) -> Cost:
    """Measure seconds of a title that both make, in ``work``. Raises ``RheonError`` or ``Stopped``."""
    assert hardware.video is not None
    # pixel by pixel: both have the same size, so that a larger screen would only take longer
    viewing = Viewing(screen=(hardware.video.width, hardware.video.height))
    reference = reference_in(work, title, software, hooks=hooks)
    wanted = measure_fidelity(title, software, viewing, reference, hooks)
    mean_bps = wanted.size_bytes * 8 / wanted.seconds

    def at(factor: float) -> Fidelity:
        assert hardware.video is not None
        rate = round(mean_bps * factor)
        made = replace(hardware.video, bitrate_bps=rate, peak_bps=max(rate, hardware.video.peak_bps or 0))
        return measure_fidelity(title, replace(hardware, video=made), viewing, reference, hooks)

    points = [at(1.0)]
    too_coarse = points[0].mean < wanted.mean
    for factor in LARGER if too_coarse else SMALLER:
        points.append(at(factor))
        if (points[-1].mean < wanted.mean) is not too_coarse:
            break
    quick_s = points[0].made_s
    return Cost(
        size_share=_share(wanted, points),
        time_share=round(quick_s / wanted.made_s, 3) if wanted.made_s else None,
    )


def _share(wanted: Fidelity, points: list[Fidelity]) -> float | None:
    """Between the measured points, by the logarithms of their sizes; ``None`` beside all of them."""
    known = sorted((point.mean, math.log(point.size_bytes)) for point in points)
    if not known[0][0] <= wanted.mean <= known[-1][0]:
        # smaller than all that was tried is still no larger than the smallest
        return round(math.exp(known[0][1]) / wanted.size_bytes, 3) if wanted.mean < known[0][0] else None
    size = math.exp(float(np.interp(wanted.mean, [mean for mean, _ in known], [size for _, size in known])))
    return round(size / wanted.size_bytes, 3)
