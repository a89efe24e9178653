"""The pictures of a join in one frame: what is done to each part's, where not all are alike. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from ...media import Borders, Colour, Reason, SubtitleStream, VideoSettings, VideoStream
from ...media.fitting import bars_around
from ...media.joined import same_frame
from ..decisions import NO_PINS, Pins
from ..decisions.picture import CROP
from ..decisions.picture.colour import family
from ..request import PlanRequest
from .colour import source_colour
from .crop import Crop, crop_for
from .frame_rate import FrameRatePlan
from .smoothing import denoise_for


@dataclass(frozen=True, slots=True, kw_only=True)
class PartPicture:
    """A part's picture as it is seen, what is cut away of it, and what becomes of its fields and rate.

    ``rotation_from`` is how its file says that it is turned.
    """

    video: VideoStream
    rotation_from: int
    crop: Borders
    timing: FrameRatePlan


def part_crops(request: PlanRequest, whole: Crop, drawn: SubtitleStream | None) -> list[Borders]:
    """What is cut away of each part: the same of all that are of one frame, else each part's own borders."""
    parts = [(part, part.video) for part in request.title.joined if part.video is not None]
    if same_frame([video for _, video in parts]):
        return [whole.borders] * len(parts)
    pinned = request.pins.of(CROP) is not None
    frame = request.title.video
    return [
        whole.borders
        if pinned and frame is not None and same_frame([video, frame])
        else crop_for(replace(request, title=part, pins=NO_PINS), drawn).borders
        for part, video in parts
    ]


def common_timing(timings: Sequence[FrameRatePlan]) -> FrameRatePlan:
    """The quickest rate that a part comes out at, so that no picture is lost."""
    quickest = max(timings, key=lambda timing: timing.frame_rate)
    rates = sorted({timing.frame_rate for timing in timings})
    if len(rates) == 1:
        return replace(quickest, variable_rate=False)
    said = ", ".join(f"{float(rate):.5g}" for rate in rates)
    return replace(quickest, variable_rate=False, rate_reason=Reason(code="joined_rates", values={"rates": said}))


def size_reason(reason: Reason, parts: Sequence[PartPicture]) -> Reason:
    """Why the frame is as large as it is, where pictures of several sizes go into it."""
    as_source = reason.code in ("kept_size", "square_pixels")
    if not parts or not as_source or same_frame([part.video for part in parts]):
        return reason
    return Reason(code="joined_size", values=reason.values)


def with_parts(made: VideoSettings, parts: Sequence[PartPicture], pins: Pins) -> VideoSettings:
    """The settings with those of each part, where they differ."""
    fitted = not same_frame([one.video for one in parts])
    own = tuple(_settings(made, part, pins, fitted=fitted) for part in parts)
    return made if all(one == made for one in own) else replace(made, parts=own)


def _settings(made: VideoSettings, part: PartPicture, pins: Pins, *, fitted: bool) -> VideoSettings:
    timing = part.timing
    return replace(
        made,
        crop=part.crop,
        rotation=part.video.rotation,
        rotation_from=part.rotation_from,
        pad=_pad(made, part) if fitted else Borders(),
        fields=timing.fields,
        deinterlacer=timing.deinterlacer,
        film_in_fields=timing.film_in_fields,
        comb_limit=timing.comb_limit,
        top_field_first=part.video.top_field_first,
        every=timing.every if timing.frame_rate == made.frame_rate else 1,
        colour_from=colour_change(part.video, made.colour),
        bit_depth_from=part.video.bit_depth,
        whole_planes_from=part.video.in_whole_planes(part.crop),
        denoise=denoise_for(part.video, pins),
    )


def colour_change(video: VideoStream, wanted: Colour | None) -> Colour | None:
    """What the picture's colours have to be turned from; ``None`` where they stay."""
    source = source_colour(video)
    changed = wanted is not None and (
        family(source) != family(wanted) or source.full_range or source.dynamic_range is not wanted.dynamic_range
    )
    return source if changed else None


def _pad(made: VideoSettings, part: PartPicture) -> Borders:
    """Black beside or above and below a picture of another shape than the frame."""
    frame = Fraction(made.width, made.height) * made.sample_aspect
    return bars_around((made.width, made.height), frame, _left(part).display_aspect)


def _left(part: PartPicture) -> VideoStream:
    cut = part.crop
    return replace(
        part.video,
        width=part.video.width - cut.left - cut.right,
        height=part.video.height - cut.top - cut.bottom,
    )
