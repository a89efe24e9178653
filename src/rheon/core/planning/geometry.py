"""Picture size: square pixels, inside the device's bounds and its level, never enlarged."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from ..devices import DeviceProfile, VideoEntry
from ..devices.levels import Level
from ..media import Reason, VideoStream

SMALLEST_SIDE = 16


@dataclass(frozen=True, slots=True, kw_only=True)
class Geometry:
    """The size that comes out, in pixels, the shape of one, and why."""

    width: int
    height: int
    sample_aspect: Fraction
    reason: Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class Bounds:
    """What the picture must stay inside: the largest sides, and the level where there is one."""

    width: int
    height: int
    level: Level | None
    limited_by: str

    def hold(self, width: int, height: int, rate: Fraction) -> bool:
        inside = width <= self.width and height <= self.height
        return inside and (self.level is None or self.level.holds_picture(width, height, rate))


def bounds_for(profile: DeviceProfile, entry: VideoEntry, level: Level | None, most_lines: int | None) -> Bounds:
    """The tightest of decoder, screen and pin; ``limited_by`` names which of them set the height."""
    width, height, by = entry.max_width, entry.max_height, "decoder"
    if profile.screen and (profile.screen.width < width or profile.screen.height < height):
        width, height, by = min(width, profile.screen.width), min(height, profile.screen.height), "screen"
    if most_lines is not None and most_lines < height:
        height, by = most_lines, "pin"
    return Bounds(width=width, height=height, level=level, limited_by=by)


def fit(video: VideoStream, rate: Fraction, bounds: Bounds, *, square: bool) -> Geometry:
    """The largest size inside the bounds that keeps the ratio.

    With ``square`` the sample aspect is turned into square pixels by changing the width only, so no line is lost.
    """
    stored_w, height = (video.height, video.width) if video.rotation % 180 else (video.width, video.height)
    aspect = Fraction(1) if square else video.sample_aspect
    ratio = video.display_aspect if square else Fraction(stored_w, height)
    lines = _even(height)
    if bounds.hold(_wide(lines, ratio), lines, rate):
        return Geometry(width=_wide(lines, ratio), height=lines, sample_aspect=aspect, reason=_kept(video, square))
    fitting = lines = _even(int(min(Fraction(height), Fraction(bounds.height), bounds.width / ratio)))
    while lines > SMALLEST_SIDE and not bounds.hold(_wide(lines, ratio), lines, rate):
        lines -= 2
    # a step or two is rounding; more is the level's doing
    code = "fits_level" if lines < fitting - 4 else f"fits_{bounds.limited_by}"
    values: dict[str, object] = {"width": bounds.width, "height": bounds.height, "source": _stored(video)}
    width, widest = _wide(lines, ratio), _even(bounds.width)
    if 0 < widest - width <= 2 and bounds.hold(widest, lines, rate):
        width = widest  # the last column pair belongs to rounding
    return Geometry(
        width=min(width, widest),
        height=lines,
        sample_aspect=aspect,
        reason=Reason(code=code, values=values),
    )


def _kept(video: VideoStream, square: bool) -> Reason:
    if square and video.sample_aspect != 1:
        return Reason(code="square_pixels", values={"source": _stored(video)})
    return Reason(code="kept_size", values={"source": _stored(video)})


def _stored(video: VideoStream) -> str:
    return f"{video.width}×{video.height}"


def _wide(lines: int, ratio: Fraction) -> int:
    """The even width nearest to the ratio."""
    return max(SMALLEST_SIDE, 2 * round(lines * ratio / 2))


def _even(side: int) -> int:
    return max(SMALLEST_SIDE, side - side % 2)
