"""Frame rate and fields: film restored, fields joined, the device's limit kept."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ...devices import VideoEntry
from ...formats import VideoEncoder
from ...media import Fields, Reason, Scan, VideoStream
from ..decisions import PINNED, Pins
from ..decisions.picture import DEINTERLACER, FIELDS, FRAME_RATE
from ..decisions.picture.deinterlacer import USUAL

FILM_SHARE = Fraction(4, 5)  # 24 frames became 30 by repeated fields
NEAR = Fraction(1, 200)


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameRatePlan:
    """The frame rate that comes out and what has to be done to the fields, each with its reason.

    ``variable_rate``: every picture keeps its own time, and ``frame_rate`` is that of the quick parts. ``every``: of so
    many pictures one is taken.
    """

    frame_rate: Fraction
    variable_rate: bool
    every: int
    fields: Fields
    deinterlacer: str
    film_in_fields: bool
    combed: bool
    rate_reason: Reason
    fields_reason: Reason


def plan_frame_rate(
    video: VideoStream, entry: VideoEntry, encoder: VideoEncoder, pins: Pins, *, own_times: bool = False
) -> FrameRatePlan:
    """Progressive frames at the source's own rate, halved until the device takes them.

    ``own_times`` says that the container keeps a time for each picture.
    """
    fields, fields_reason = _fields(video, pins)
    rate, rate_reason = _rate(video, entry, fields, pins)
    keeps = own_times and entry.variable_frame_rate and not encoder.frame_rates and fields is Fields.LEAVE
    varying = video.variable_rate and keeps and rate_reason.code == "varying_evened"
    if varying:
        rate_reason = Reason(code="varying_kept", values=rate_reason.values)
    if FRAME_RATE not in pins and encoder.frame_rates:
        rate, rate_reason = _sayable(rate, rate_reason, encoder)
    restored = fields is Fields.RESTORE
    return FrameRatePlan(
        frame_rate=rate,
        variable_rate=varying,
        every=_every(video, fields, rate),
        fields=fields,
        deinterlacer=pins.of(DEINTERLACER) or USUAL,
        film_in_fields=restored and (video.film_in_fields or video.scan is not Scan.TELECINED),
        combed=fields is Fields.LEAVE and video.scan in (Scan.INTERLACED, Scan.TELECINED),
        rate_reason=rate_reason,
        fields_reason=fields_reason,
    )


def _fields(video: VideoStream, pins: Pins) -> tuple[Fields, Reason]:
    if (pinned := pins.of(FIELDS)) is not None:
        if pinned is Fields.LEAVE and video.rotation and video.scan in (Scan.INTERLACED, Scan.TELECINED):
            raise FIELDS.refuse("Fields lie in the lines of a picture: one that is turned can't keep them.")
        return pinned, PINNED
    if video.scan is Scan.TELECINED:
        return Fields.RESTORE, Reason(code="film_restored", values={"source": f"{float(video.frame_rate):.3f}"})
    if video.scan is Scan.INTERLACED:
        return Fields.JOIN, Reason(code="fields_joined")
    return Fields.LEAVE, Reason(code="whole_frames")


def _rate(video: VideoStream, entry: VideoEntry, fields: Fields, pins: Pins) -> tuple[Fraction, Reason]:
    if (pinned := pins.of(FRAME_RATE)) is not None:
        return pinned, PINNED
    made = video.frame_rate * {Fields.RESTORE: FILM_SHARE, Fields.DOUBLE: Fraction(2)}.get(fields, Fraction(1))
    limited = made
    while limited > entry.frame_rate_limit:
        limited /= 2
    if limited != made:
        return limited, Reason(code="rate_limited", values={"limit": f"{float(entry.frame_rate_limit):g}"})
    if video.variable_rate and fields is Fields.LEAVE:
        return limited, Reason(code="varying_evened", values={"quick": f"{float(video.frame_rate):.3f}"})
    code = {Fields.RESTORE: "film_restored", Fields.JOIN: "fields_joined", Fields.DOUBLE: "fields_doubled"}.get(fields)
    return limited, Reason(code=code or "source_rate", values={"source": f"{float(video.frame_rate):.3f}"})


def _every(video: VideoStream, fields: Fields, rate: Fraction) -> int:
    """Of how many pictures one is taken where the rate is a whole part of the source's own; 1 where it is not."""
    times = video.frame_rate * (2 if fields is Fields.DOUBLE else 1) / rate
    steady = not video.variable_rate and fields is not Fields.RESTORE
    return round(times) if steady and times >= 2 and abs(times - round(times)) < NEAR else 1


def _sayable(rate: Fraction, reason: Reason, encoder: VideoEncoder) -> tuple[Fraction, Reason]:
    """The nearest rate below that the codec has a code for; rates that only rounding sets apart are the same."""
    same = [known for known in encoder.frame_rates if abs(known - rate) <= known * NEAR]
    if same:
        return min(same, key=lambda known: abs(known - rate)), reason
    below = [known for known in encoder.frame_rates if known <= rate]
    chosen = max(below, default=encoder.frame_rates[0])
    return chosen, Reason(code="rate_of_codec", values={"source": f"{float(rate):.3f}"})
