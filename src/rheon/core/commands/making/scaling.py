"""The filters that give a picture its size, matrix, range and depth. Pure."""

from __future__ import annotations

from ...media import Colour, Fields, VideoSettings
from ..tone_mapping import MATRICES, range_name, tone_mapped

# names of the matrices in the engine's own scaler
SCALER_MATRICES = {"smpte170m": "bt601", "bt470bg": "bt601", "fcc": "fcc", "bt709": "bt709", "bt2020nc": "bt2020"}


def sized(made: VideoSettings) -> list[str]:
    """Filters from the source's size and colours to those of the output, and black around it."""
    pad = made.pad
    inside = (made.width - pad.left - pad.right, made.height - pad.top - pad.bottom)
    around = [f"pad={made.width}:{made.height}:{pad.left}:{pad.top}:black"] if pad.any else []
    source, wanted = made.colour_from, made.colour
    if source is not None and wanted is not None and source.dynamic_range is not wanted.dynamic_range:
        # where there are few pixels: each is worked out in floating point
        return [*_scaled(made, inside, source, source), *tone_mapped(source, wanted), *around]
    return [*_scaled(made, inside, source or wanted, wanted), *around]


def scaler_matrix(colour: Colour) -> str:
    """By the name that the engine's own scaler has for it."""
    return SCALER_MATRICES.get(colour.matrix, "bt709")


def _scaled(made: VideoSettings, size: tuple[int, int], source: Colour | None, wanted: Colour | None) -> list[str]:
    width, height = size
    if made.fields is Fields.KEEP or not made.whole_planes_from:
        # which takes each field by itself, and pictures in any form
        fields = ":interl=1" if made.fields is Fields.KEEP else ""
        return [f"scale={width}:{height}:flags=lanczos{fields}{_converted(source, wanted)}"]
    # the same curve in a quarter of the time, and in less where the matrix changes. All of it is told: what pictures
    # say of themselves may be missing, wrong, or something that it can't convert
    scale = f"zscale=w={width}:h={height}:filter=lanczos:c=left"
    if source is not None and wanted is not None:
        scale += f":matrixin={_matrix(source)}:matrix={_matrix(wanted)}"
        scale += f":rangein={range_name(source)}:range={range_name(wanted)}"
    # steps of ten bits between two of eight are shown by how many pixels have the higher one
    dithered = ":dither=ordered" if made.bit_depth_from > made.bit_depth else ""
    # a whole picture that says it consists of fields would be moved by half a line
    return ["setfield=prog", f"{scale}{dithered}"]


def _matrix(colour: Colour) -> str:
    return MATRICES.get(colour.matrix, "709")


def _converted(source: Colour | None, wanted: Colour | None) -> str:
    if source is None or wanted is None or source == wanted:
        return ""
    sides = (("in", source), ("out", wanted))
    return "".join(
        f":{side}_color_matrix={scaler_matrix(colour)}:{side}_range={range_name(colour)}" for side, colour in sides
    )
