"""Which matrix an output's colours have: that of its size, so that players which guess by size are right too."""

from __future__ import annotations

from dataclasses import replace

from ...devices import VideoEntry
from ...media import Colour, DynamicRange, Reason, VideoStream
from ..decisions import PINNED, Pins
from ..decisions.picture import COLOUR
from ..decisions.picture.colour import FAMILIES, NAMES, family

SD_LINES, SD_WIDTH = 576, 1024
BT601_NTSC = Colour(matrix="smpte170m", primaries="smpte170m", transfer="smpte170m")
BT601_PAL = Colour(matrix="bt470bg", primaries="bt470bg", transfer="smpte170m")
BT709 = Colour(matrix="bt709", primaries="bt709", transfer="bt709")


def source_colour(video: VideoStream) -> Colour:
    """What the stream says, else what its size stands for (ITU-R BT.601 up to 576 lines, BT.709 above)."""
    if video.colour is not None and video.colour.matrix in FAMILIES:
        return video.colour
    full = bool(video.colour and video.colour.full_range)
    if video.height > SD_LINES or video.width > SD_WIDTH:
        return _like(BT709, full)
    return _like(BT601_PAL if video.height in (288, 576) else BT601_NTSC, full)


def output_colour(
    video: VideoStream, size: tuple[int, int], depth: int, entry: VideoEntry, pins: Pins
) -> tuple[Colour, Reason]:
    """The colours that come out, always in limited range as every player expects.

    Light beyond white paper is kept where the device shows it, else drawn into the standard range.
    """
    source = source_colour(video)
    pinned = pins.of(COLOUR)
    wide = family(source) == "2020"
    bright = source.dynamic_range is not DynamicRange.STANDARD
    shown = source.dynamic_range in entry.dynamic_ranges
    if pinned is None and wide and depth > 8 and (shown or not bright):
        return _like(source, False), Reason(code="colour_hdr_kept" if bright else "colour_wide_kept")
    small = size[1] <= SD_LINES and size[0] <= SD_WIDTH
    wanted = pinned or ("601" if small else "709")
    if wanted == family(source) and not bright:
        made = _like(source, False)
        code = "colour_kept"
    else:
        made = BT709 if wanted == "709" else (BT601_PAL if size[1] in (288, 576) else BT601_NTSC)
        code = "colour_of_size"
    values: dict[str, object] = {"source": NAMES[family(source)], "full": source.full_range}
    if bright:
        code = "colour_tone_mapped_depth" if shown else "colour_tone_mapped"
        values = {"range": source.dynamic_range.value}
    return made, PINNED if pinned else Reason(code=code, values=values)


def _like(colour: Colour, full: bool) -> Colour:
    return replace(colour, full_range=full)
