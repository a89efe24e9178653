"""The frame by hand: how the picture is turned, its shape, and how it meets the screen's. Pure."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from ...devices import DeviceProfile
from ...media import Borders, Reason, VideoStream
from ...media.fitting import halves
from ..decisions import Pins
from ..decisions.picture import ASPECT, FIELD_ORDER, ROTATION, SCREEN_FIT
from ..decisions.picture.field_order import TOP
from ..decisions.picture.screen_fit import FILL, STRETCH
from .crop import LEAST_SIDE, Crop, on_fields


def set_upright(video: VideoStream, pins: Pins) -> VideoStream:
    """The whole picture, before anything is cut away: turned, in the shape and with the field order set by hand."""
    if (first := pins.of(FIELD_ORDER)) is not None:
        video = replace(video, top_field_first=first == TOP)
    if (clockwise := pins.of(ROTATION)) is not None:
        video = replace(video, rotation=-clockwise % 360)
    wanted = pins.of(ASPECT)
    return video if wanted is None else _shaped(video, wanted)


def met_screen(
    video: VideoStream, crop: Crop, profile: DeviceProfile, pins: Pins, *, of_fields: bool = False
) -> tuple[VideoStream, Crop]:
    """What is left of the picture after the crop and, where that was asked for, filling or stretched to the screen.

    Raises ``BadPin`` where there is no screen, or filling it would leave too little.
    """
    left, wish = crop.applied(video), pins.of(SCREEN_FIT)
    if wish not in (FILL, STRETCH):
        return left, crop
    screen = profile.screen
    if screen is None:
        raise SCREEN_FIT.refuse("Nothing is known of a screen that could be filled.")
    aspect = Fraction(screen.width, screen.height)
    if wish == STRETCH:
        return _shaped(left, aspect), crop
    cut = _cut_to(left, aspect)
    if min(left.width - cut.left - cut.right, left.height - cut.top - cut.bottom) < LEAST_SIDE:
        raise SCREEN_FIT.refuse("So little would be left of the picture that nothing could be seen.")
    both = Borders(
        top=crop.borders.top + cut.top,
        bottom=crop.borders.bottom + cut.bottom,
        left=crop.borders.left + cut.left,
        right=crop.borders.right + cut.right,
    )
    filled = Crop(
        borders=on_fields(both) if of_fields else both,
        reason=Reason(code="cut_to_fill", values={"aspect": f"{float(aspect):.2f}"}),
    )
    return filled.applied(video), filled


def _shaped(video: VideoStream, aspect: Fraction) -> VideoStream:
    """With pixels of such a shape that the picture is seen in this ratio of width to height."""
    shape = aspect / Fraction(*video.upright_size)
    return replace(video, sample_aspect=1 / shape if video.rotation % 180 else shape)


def _cut_to(video: VideoStream, aspect: Fraction) -> Borders:
    """What has to go at two sides, as much at both, for the picture to have this ratio as it is seen."""
    wanted = 1 / aspect if video.rotation % 180 else aspect
    stored = Fraction(video.width, video.height) * video.sample_aspect
    if stored > wanted:
        first, second = halves(video.width, video.width * wanted / stored)
        return Borders(left=first, right=second)
    first, second = halves(video.height, video.height * stored / wanted)
    return Borders(top=first, bottom=second)
