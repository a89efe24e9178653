"""Charts of known light, coded as HDR video is, and what a standard picture of them has to hold.

All curves are written out from ITU-R BT.2100 (PQ, HLG), BT.2020 and BT.709 (primaries, matrices), BT.1886 (a standard
display), apart from Rheon's own code.
"""

from __future__ import annotations

from itertools import pairwise
from pathlib import Path

import numpy as np
import numpy.typing as npt

from .engine import output_of

Light = npt.NDArray[np.float64]
ACROSS, DOWN, PATCH = 8, 6, (160, 120)
SIZE = (ACROSS * PATCH[0], DOWN * PATCH[1])
GREYS_NITS = (0.0, 0.1, 1.0, 5.0, 26.0, 50.0, 100.0, 150.0, 203.0, 300.0, 500.0, 800.0, 1000.0)
PAPER_NITS, KNEE, GAMMA = 203.0, 0.5, 2.4
TO_2020 = np.array([[0.6274, 0.3293, 0.0433], [0.0691, 0.9195, 0.0114], [0.0164, 0.0880, 0.8956]])
"""From BT.709's primaries (ITU-R BT.2087, table 2)."""
XYZ_709 = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
XYZ_601 = np.array([[0.3935, 0.3653, 0.1916], [0.2124, 0.7011, 0.0866], [0.0187, 0.1119, 0.9582]])
"""From the primaries of BT.709 and of BT.601 with 525 lines (SMPTE ST 170), both with white at D65."""
LUMA_2020, LUMA_709, LUMA_601 = (0.2627, 0.678, 0.0593), (0.2126, 0.7152, 0.0722), (0.299, 0.587, 0.114)


def chart() -> Light:
    """Light of each patch in cd/m², red, green and blue by BT.709's primaries: greys, then colours of every hue."""
    hues = ((1, 0.1, 0.1), (0.1, 1, 0.1), (0.1, 0.1, 1), (1, 1, 0.2), (0.2, 1, 1), (1, 0.2, 1), (1, 0.6, 0.4))
    colours = [np.array(hue) * nits for nits in (5.0, 40.0, 120.0, 203.0, 600.0) for hue in hues]
    return np.array([*(np.full(3, nits) for nits in GREYS_NITS), *colours], float)


def pq(nits: Light) -> Light:
    """The signal for light of a display, 0 to 1 (BT.2100, table 4)."""
    m1, m2, c1, c2, c3 = 2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128
    powered = np.clip(nits / 10_000, 0, 1) ** m1
    return ((c1 + c2 * powered) / (1 + c3 * powered)) ** m2


def hlg(nits: Light) -> Light:
    """The signal for light of a display of 1,000 cd/m², 0 to 1 (BT.2100, table 5, with the OOTF undone)."""
    shown = nits / 1000
    luminance = np.maximum(shown @ np.array(LUMA_2020), 1e-9)[..., None]
    scene = np.clip(shown * luminance ** ((1 - 1.2) / 1.2), 0, 1)
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    return np.where(scene <= 1 / 12, np.sqrt(3 * scene), a * np.log(np.maximum(12 * scene - b, 1e-9)) + c)


CURVES = {"smpte2084": pq, "arib-std-b67": hlg}


def write_chart(path: Path, transfer: str, pictures: int = 24) -> None:
    """The chart as ten-bit HEVC without loss, with its colours told."""
    signal = CURVES[transfer](chart() @ TO_2020.T)
    red, _, blue = LUMA_2020
    luma = signal @ np.array(LUMA_2020)
    planes = (
        64 + 876 * luma,
        512 + 896 * (signal[:, 2] - luma) / (2 * (1 - blue)),
        512 + 896 * (signal[:, 0] - luma) / (2 * (1 - red)),
    )
    raw = b""
    for plane, half in zip(planes, (1, 2, 2), strict=True):
        grid = np.round(plane).astype("<u2").reshape(DOWN, ACROSS)
        raw += np.kron(grid, np.ones((PATCH[1] // half, PATCH[0] // half), "<u2")).tobytes()
    path.with_suffix(".raw").write_bytes(raw * pictures)
    argv = ["ffmpeg", "-v", "error", "-f", "rawvideo", "-pix_fmt", "yuv420p10le", "-s", f"{SIZE[0]}x{SIZE[1]}"]
    argv += ["-r", "24", "-i", str(path.with_suffix(".raw")), "-c:v", "libx265", "-preset", "ultrafast"]
    argv += ["-x265-params", "lossless=1:log-level=none", "-colorspace", "bt2020nc", "-color_primaries", "bt2020"]
    output_of([*argv, "-color_trc", transfer, "-color_range", "tv", str(path)])
    path.with_suffix(".raw").unlink()


def expected(peak_nits: float = 1000.0) -> Light:
    """What a standard picture of the chart holds, as signals 0 to 1: paper is white's neighbour, hues stay."""
    light = chart() / PAPER_NITS
    most = light.max(axis=1, keepdims=True)
    drawn = np.where(most <= KNEE, most, _drawn_in(most, peak_nits / PAPER_NITS))
    return np.clip(light * drawn / np.maximum(most, 1e-9), 0, 1) ** (1 / GAMMA)


def _drawn_in(light: Light, peak: float) -> Light:
    """A hyperbola that leaves the line of unchanged light at the knee without a bend, and meets white at the peak."""
    a = -(KNEE**2) * (peak - 1) / (KNEE**2 - 2 * KNEE + peak)
    b = (KNEE**2 - 2 * KNEE * peak + peak) / (peak - 1)
    return (b * b + 2 * b * KNEE + KNEE * KNEE) / (b - a) * (light + a) / (light + b)


def shown(path: Path, luma: tuple[float, float, float], at: int = 12) -> Light:
    """The signals that a standard file holds in each patch, 0 to 1, read by its matrix in limited range."""
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-vf", f"select=eq(n\\,{at}),format=yuv420p", "-frames:v", "1"]
    data = np.frombuffer(output_of([*argv, "-f", "rawvideo", "pipe:1"]), np.uint8).astype(float)
    height = round((len(data) / 1.5 * SIZE[1] / SIZE[0]) ** 0.5)
    width = round(len(data) / 1.5 / height)
    cut = [0, width * height, width * height * 5 // 4, len(data)]
    planes = [
        data[a:b].reshape(height // half, width // half) for (a, b), half in zip(pairwise(cut), (1, 2, 2), strict=True)
    ]
    y, u, v = (_patches(plane) for plane in planes)
    y, u, v = (y - 16) / 219, (u - 128) / 224, (v - 128) / 224
    red, green, blue = luma
    r, b = y + 2 * (1 - red) * v, y + 2 * (1 - blue) * u
    return np.clip(np.stack([r, (y - red * r - blue * b) / green, b], axis=1), 0, 1)


def _patches(plane: Light) -> Light:
    """The mean of each patch, its borders left out."""
    high, wide = plane.shape[0] // DOWN, plane.shape[1] // ACROSS
    inner = [
        plane[
            row * high + high // 4 : (row + 1) * high - high // 4, col * wide + wide // 4 : (col + 1) * wide - wide // 4
        ]
        for row in range(DOWN)
        for col in range(ACROSS)
    ]
    return np.array([patch.mean() for patch in inner])


def apart(seen: Light, wanted: Light, primaries: Light = XYZ_709) -> Light:
    """How far colours look apart on a standard display: the CIE 1976 difference in L*a*b*, white at D65.

    ``wanted`` has BT.709's primaries.
    """
    return np.linalg.norm(_lab(seen, primaries) - _lab(wanted, XYZ_709), axis=1)


def _lab(signal: Light, primaries: Light) -> Light:
    ratio = (signal**GAMMA @ primaries.T) / primaries.sum(axis=1)
    f = np.where(ratio > (6 / 29) ** 3, np.cbrt(ratio), ratio / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], axis=1)
