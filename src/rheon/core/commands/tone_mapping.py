"""Light of a high dynamic range drawn into the standard one, as filters. Pure."""

from __future__ import annotations

from ..media import Colour, DynamicRange, VideoStream

HDR = (DynamicRange.HDR10, DynamicRange.HLG)
WHITE_NITS = 203
"""Diffuse white, as of paper, in cd/m² (ITU-R BT.2408, table 1): it becomes what a standard picture calls white."""
USUAL_PEAK_NITS = 1000
LEAST_PEAK_NITS, MOST_PEAK_NITS = 250, 4000
KNEE = 0.5
"""Up to this part of white all light stays as it is; what is brighter is drawn in, ever more, up to the peak."""

# names in the filter that converts colours
MATRICES = {
    "bt709": "709", "smpte170m": "170m", "bt470bg": "470bg", "fcc": "fcc", "bt2020nc": "2020_ncl", "bt2020c": "2020_cl",
}  # fmt: skip
PRIMARIES = {"bt709": "709", "smpte170m": "170m", "bt470bg": "470bg", "bt2020": "2020"}
TRANSFERS = {DynamicRange.HDR10: "smpte2084", DynamicRange.HLG: "arib-std-b67"}
STANDARD_TRANSFER = "709"
"""Of a standard picture, whatever its matrix: displays show all of them by the curve of ITU-R BT.1886."""
SCREEN = Colour(matrix="bt709", primaries="bt709", transfer="bt709")
"""What any screen shows."""
STILL = Colour(matrix="smpte170m", primaries="bt709", transfer="bt709", full_range=True)
"""What a JPEG holds: the matrix of BT.601 in full range (JFIF, ITU-T T.871)."""


def for_screen(video: VideoStream, shown: Colour = SCREEN) -> list[str]:
    """Filters by which any screen shows the stream's pictures: none where it does so anyway."""
    if video.colour is None or video.dynamic_range is DynamicRange.STANDARD:
        return []
    return tone_mapped(video.colour, shown)


def peak_nits(source: Colour) -> int:
    """The light, in cd/m², that becomes the brightest white: what the pictures are said to hold, if that is usual."""
    return min(MOST_PEAK_NITS, max(LEAST_PEAK_NITS, source.peak_nits or USUAL_PEAK_NITS))


def tone_mapped(source: Colour, wanted: Colour) -> list[str]:
    """Filters that turn ``source`` into ``wanted``: linear light, other primaries, the curve, eight or ten bits again.

    The curve is applied to the largest of red, green and blue, and the others follow it: no hue moves.
    """
    read = f"matrixin={MATRICES.get(source.matrix, '2020_ncl')}:primariesin={PRIMARIES.get(source.primaries, '2020')}"
    read += f":transferin={TRANSFERS[source.dynamic_range]}:rangein={range_name(source)}"
    primaries = PRIMARIES.get(wanted.primaries, "709")
    written = f"matrix={MATRICES.get(wanted.matrix, '709')}:transfer={STANDARD_TRANSFER}:primaries={primaries}"
    return [
        # exactly: the quick way curves each of red, green and blue, where HLG means their common light
        f"zscale={read}:transfer=linear:npl={WHITE_NITS}:agamma=false",
        "format=gbrpf32le",
        f"zscale=primaries={primaries}",
        f"tonemap=mobius:param={KNEE}:desat=0:peak={peak_nits(source) / WHITE_NITS:.4f}",
        f"zscale={written}:range={range_name(wanted)}:dither=ordered",
    ]


def range_name(colour: Colour) -> str:
    """By the scaler's name: of all codes, or of those from black to white."""
    return "full" if colour.full_range else "limited"
