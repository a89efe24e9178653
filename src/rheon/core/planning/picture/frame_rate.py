"""Frame rate and fields: film restored, fields joined, doubled or kept, the device's limit kept."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ...devices import VideoEntry
from ...formats import VideoEncoder, video_encoder
from ...media import OF_FIELDS, Fields, Reason, Scan, VideoStream
from ..decisions import PINNED, Pins
from ..decisions.picture import DEINTERLACER, FIELDS, FRAME_RATE
from ..decisions.picture.deinterlacer import USUAL

FILM_SHARE = Fraction(4, 5)  # 24 frames became 30 by repeated fields
NEAR = Fraction(1, 200)
LEAST_FOR_FILM = Fraction(29)
"""Frames a second from which on film comes with repeated fields."""
RATE_REASONS = {
    Fields.RESTORE: "film_restored",
    Fields.JOIN: "fields_joined",
    Fields.DOUBLE: "frame_of_each_field",
    Fields.MATCH: "fields_joined",
}
OWN_TIMES = {"varying_evened": "varying_kept", "film_among_video": "film_at_own_rate"}
"""Why pictures come at a steady rate, and why each may have its own time instead."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldsChoice:
    """What is done to the fields of an interlaced source, and why."""

    fields: Fields
    reason: Reason


JOINED = FieldsChoice(fields=Fields.JOIN, reason=Reason(code="fields_joined"))


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameRatePlan:
    """The frame rate that comes out and what has to be done to the fields, each with its reason.

    ``variable_rate``: every picture keeps its own time, and ``frame_rate`` is that of the quick parts. ``every``: of so
    many pictures one is taken. ``comb_limit`` as for ``VideoSettings``.
    """

    frame_rate: Fraction
    variable_rate: bool
    every: int
    fields: Fields
    deinterlacer: str
    film_in_fields: bool
    comb_limit: int
    combed: bool
    rate_reason: Reason
    fields_reason: Reason


def plan_frame_rate(
    video: VideoStream,
    entry: VideoEntry,
    pins: Pins,
    *,
    own_times: bool = False,
    interlaced: FieldsChoice = JOINED,
) -> FrameRatePlan:
    """Pictures at the source's own rate, halved until the device takes them.

    ``own_times`` says that the container keeps a time for each picture, ``interlaced`` what is done to fields of an
    interlaced source where nothing was set by hand.
    """
    encoder = video_encoder(entry.codec)
    fields, fields_reason = _fields(video, pins, interlaced)
    rate, rate_reason = _rate(video, entry, fields, pins)
    keeps = own_times and entry.variable_frame_rate and not encoder.frame_rates
    varying = keeps and rate_reason.code in OWN_TIMES
    if varying:
        rate_reason = Reason(code=OWN_TIMES[rate_reason.code], values=rate_reason.values)
    if FRAME_RATE not in pins and encoder.frame_rates:
        rate, rate_reason = _sayable(rate, rate_reason, encoder)
    looked_at = fields is Fields.RESTORE and (video.film_in_fields or video.scan is not Scan.TELECINED)
    return FrameRatePlan(
        frame_rate=rate,
        variable_rate=varying,
        every=_every(video, fields, rate),
        fields=fields,
        deinterlacer=pins.of(DEINTERLACER) or USUAL,
        film_in_fields=looked_at,
        comb_limit=video.comb_limit,
        combed=fields is Fields.LEAVE and video.scan in OF_FIELDS,
        rate_reason=rate_reason,
        fields_reason=fields_reason,
    )


def keeps_fields(video: VideoStream, pins: Pins) -> bool:
    """Whether somebody wants fields to stay as they are."""
    pinned = pins.of(FIELDS)
    return pinned is Fields.KEEP or (pinned is Fields.LEAVE and video.scan in OF_FIELDS)


def _fields(video: VideoStream, pins: Pins, interlaced: FieldsChoice) -> tuple[Fields, Reason]:
    if (pinned := pins.of(FIELDS)) is not None:
        if keeps_fields(video, pins) and video.rotation:
            raise FIELDS.refuse("Fields lie in the lines of a picture: one that is turned can't keep them.")
        return pinned, PINNED
    if video.scan is Scan.MIXED:
        return Fields.MATCH, Reason(code="fields_matched")
    if video.scan is Scan.TELECINED:
        return Fields.RESTORE, Reason(code="film_restored", values={"source": f"{float(video.frame_rate):.3f}"})
    if video.scan is Scan.INTERLACED:
        return interlaced.fields, interlaced.reason
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
    code = RATE_REASONS.get(fields, "source_rate")
    if fields is Fields.MATCH and video.frame_rate >= LEAST_FOR_FILM:
        code = "film_among_video"
    return limited, Reason(code=code, values={"source": f"{float(video.frame_rate):.3f}"})


def _every(video: VideoStream, fields: Fields, rate: Fraction) -> int:
    """Of how many pictures one is taken where the rate is a whole part of the source's own; 1 where it is not."""
    times = video.frame_rate * (2 if fields is Fields.DOUBLE else 1) / rate
    steady = not video.variable_rate and fields not in (Fields.RESTORE, Fields.MATCH)
    return round(times) if steady and times >= 2 and abs(times - round(times)) < NEAR else 1


def _sayable(rate: Fraction, reason: Reason, encoder: VideoEncoder) -> tuple[Fraction, Reason]:
    """The nearest rate below that the codec has a code for; rates that only rounding sets apart are the same."""
    same = [known for known in encoder.frame_rates if abs(known - rate) <= known * NEAR]
    if same:
        return min(same, key=lambda known: abs(known - rate)), reason
    below = [known for known in encoder.frame_rates if known <= rate]
    chosen = max(below, default=encoder.frame_rates[0])
    return chosen, Reason(code="rate_of_codec", values={"source": f"{float(rate):.3f}"})
