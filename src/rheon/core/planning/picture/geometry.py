"""Picture size: square pixels, inside the device's bounds and its level, never enlarged unless somebody says so."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction

from ...devices import DeviceProfile, VideoEntry
from ...formats import Level
from ...media import Reason, VideoStream
from ..decisions import PINNED, Pins
from ..decisions.picture import PIXELS, SIZE
from ..decisions.picture.pixels import STORED
from ..decisions.picture.size import SMALLEST_SIDE, SizePin, even

UNSEEN = Fraction(1, 125)
"""By so much a picture may be wider or narrower before a circle is none."""


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


def bounds_for(profile: DeviceProfile, entry: VideoEntry, level: Level | None) -> Bounds:
    """The tighter of decoder and screen; ``limited_by`` names which of them set the height."""
    width, height, by = entry.max_width, entry.max_height, "decoder"
    if profile.screen and (profile.screen.width < width or profile.screen.height < height):
        width, height, by = min(width, profile.screen.width), min(height, profile.screen.height), "screen"
    return Bounds(width=width, height=height, level=level, limited_by=by)


def geometry_for(video: VideoStream, rate: Fraction, bounds: Bounds, entry: VideoEntry, pins: Pins) -> Geometry:
    """The size by hand where it was set, else the largest that holds."""
    shape, by_hand = pins.of(PIXELS), pins.of(SIZE)
    stored = shape == STORED or (shape is None and by_hand is None and entry.non_square_pixels)
    if stored and video.sample_aspect != 1 and not video.rotation:
        kept = fit(video, rate, bounds, square=False) if by_hand is None else _sized(video, by_hand, square=False)
        if shape is not None or (kept.width, kept.height) == (video.width, video.height):
            return replace(kept, reason=Reason(code="kept_shape", values={"source": _stored(video)}))
    if by_hand is not None:
        return _sized(video, by_hand, square=True)
    return fit(video, rate, bounds, square=True)


def fit(video: VideoStream, rate: Fraction, bounds: Bounds, *, square: bool) -> Geometry:
    """The largest size inside the bounds that keeps the ratio.

    With ``square`` the sample aspect is turned into square pixels by changing the width only, so no line is lost.
    """
    stored_w, height = video.upright_size
    aspect = Fraction(1) if square else video.sample_aspect
    ratio = video.display_aspect if square else Fraction(stored_w, height)
    lines = even(height)
    if bounds.hold(_wide(lines, ratio), lines, rate):
        return Geometry(width=_wide(lines, ratio), height=lines, sample_aspect=aspect, reason=_kept(video, square))
    fitting = lines = even(int(min(Fraction(height), Fraction(bounds.height), bounds.width / ratio)))
    while lines > SMALLEST_SIDE and not bounds.hold(_wide(lines, ratio), lines, rate):
        lines -= 2
    # a step or two is rounding; more is the level's doing
    code = "fits_level" if lines < fitting - 4 else f"fits_{bounds.limited_by}"
    values: dict[str, object] = {"width": bounds.width, "height": bounds.height, "source": _stored(video)}
    width, widest = _wide(lines, ratio), even(bounds.width)
    near = abs(widest / (lines * ratio) - 1) < UNSEEN
    if 0 < widest - width <= 2 and near and bounds.hold(widest, lines, rate):
        width = widest  # the last column pair belongs to rounding
    return Geometry(
        width=min(width, widest),
        height=lines,
        sample_aspect=aspect,
        reason=Reason(code=code, values=values),
    )


def shrunk(made: Geometry, share: float) -> Geometry:
    """The same shape with about ``share`` of the pixels."""
    ratio = Fraction(made.width, made.height)
    lines = even(int(made.height * share**0.5))
    return replace(made, width=_wide(lines, ratio), height=lines)


def _sized(video: VideoStream, wanted: SizePin, *, square: bool) -> Geometry:
    """Exactly the lines that were asked for; a width too changes the pixels' shape, so that the ratio is kept."""
    width, height = wanted.width, wanted.height
    ratio = video.display_aspect if square else Fraction(*video.upright_size)
    aspect = Fraction(1) if square else video.sample_aspect
    if width is not None:
        exact = (video.display_aspect * height / width).limit_denominator(255)
        aspect = Fraction(1) if abs(exact - 1) < Fraction(1, 50) else exact
    return Geometry(width=width or _wide(height, ratio), height=height, sample_aspect=aspect, reason=PINNED)


def _kept(video: VideoStream, square: bool) -> Reason:
    if square and video.sample_aspect != 1:
        return Reason(code="square_pixels", values={"source": _stored(video)})
    return Reason(code="kept_size", values={"source": _stored(video)})


def _stored(video: VideoStream) -> str:
    return f"{video.width}×{video.height}"


def _wide(lines: int, ratio: Fraction) -> int:
    """The even width nearest to the ratio."""
    return max(SMALLEST_SIDE, 2 * round(lines * ratio / 2))
