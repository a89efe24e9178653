"""Frame rate: film restored, fields joined, the device's limit kept."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ..devices import VideoEntry
from ..media import Reason, Scan, VideoStream

FILM_SHARE = Fraction(4, 5)  # 24 frames became 30 by repeated fields


@dataclass(frozen=True, slots=True, kw_only=True)
class Cadence:
    """The frame rate that comes out and what has to be done to the fields."""

    frame_rate: Fraction
    deinterlace: bool
    restore_film: bool
    film_in_fields: bool
    reason: Reason


def cadence_for(video: VideoStream, entry: VideoEntry) -> Cadence:
    """Progressive frames at the source's own rate, halved until the device takes them."""
    film = video.scan is Scan.TELECINED
    fields = video.scan is Scan.INTERLACED
    rate = video.frame_rate * FILM_SHARE if film else video.frame_rate
    limited = rate
    while limited > entry.frame_rate_limit:
        limited /= 2
    if limited != rate:
        reason = Reason(code="rate_limited", values={"limit": f"{float(entry.frame_rate_limit):g}"})
    else:
        code = "film_restored" if film else "fields_joined" if fields else "source_rate"
        reason = Reason(code=code, values={"source": f"{float(video.frame_rate):.3f}"})
    return Cadence(
        frame_rate=limited,
        deinterlace=fields,
        restore_film=film,
        film_in_fields=film and video.film_in_fields,
        reason=reason,
    )
