"""What keeps a frame from being a picture of anything: darkness, emptiness, two moments in one, lines of text. Pure."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Grey = npt.NDArray[np.float32]
"""Luma of a picture, from 0 to 255."""
DARK, LEAST_LIGHT, LEAST_SPREAD = 30.0, 46.0, 20.0
MOST_DARK, MOST_WHITE = 0.6, 0.5
NIGHT_LIGHT, BLACK, MOST_BLACK = 28.0, 18.0, 0.7
"""What is darker can't be seen on a small screen; what is lighter is taken where a title has nothing lighter."""
WHITE = 243.0
TOOTH, COMBED, COMBED_SHARE = 12.0, 0.25, 0.004
"""Steps between a line and those around it, how much of a block has them, and the share of such blocks."""
BLOCK = (16, 16)
TEXT_LIGHT, TEXT_STEP = 165.0, 85.0
TEXT_STROKE = 5
"""Columns in which a stroke of a letter is over, in a picture of some 200 lines."""
TEXT_ROWS, TEXT_DENSE = 4, 0.030
TEXT_AGAINST_REST, TEXT_SHARE = 3.0, 0.22
"""How much denser rows of text are than the usual row, and of how many rows they are at most."""


def is_empty(grey: Grey) -> bool:
    """Black, white, or so much of one tone that nothing is to be seen."""
    return (
        float(grey.mean()) < NIGHT_LIGHT
        or float(grey.std()) < LEAST_SPREAD
        or float((grey < BLACK).mean()) > MOST_BLACK
        or float((grey > WHITE).mean()) > MOST_WHITE
    )


def is_night(grey: Grey) -> bool:
    """Dark, with something to be seen in it all the same."""
    return float(grey.mean()) < LEAST_LIGHT or float((grey < DARK).mean()) > MOST_DARK


def is_combed(grey: Grey) -> bool:
    """Whether lines of two moments stand by turns anywhere in one picture in its own lines.

    ``analysis.scan_type`` needs several that move.
    """
    above, here, below = grey[:-4], grey[1:-3], grey[2:-2]
    apart = np.minimum(np.abs(here - above), np.abs(here - below))
    tooth = ((here - above) * (here - below) > 0) & (apart > TOOTH) & (np.abs(above - below) < apart / 2)
    tooth &= np.abs(here - grey[3:-1]) < apart / 2
    high, wide = (size // block * block for size, block in zip(tooth.shape, BLOCK, strict=True))
    blocks = tooth[:high, :wide].reshape(high // BLOCK[0], BLOCK[0], wide // BLOCK[1], BLOCK[1]).mean(axis=(1, 3))
    return bool((blocks > COMBED).sum() >= max(2, COMBED_SHARE * blocks.size))


def has_text(grey: Grey) -> bool:
    """Whether lines of letters are drawn in: light strokes with dark beside them, dense in few rows and rare elsewhere.

    Leaves have them all over, and water that glitters over all of its height.
    """
    rows = np.convolve(_strokes(grey).mean(axis=1), np.ones(TEXT_ROWS) / TEXT_ROWS, mode="valid")
    if not rows.size or (densest := float(rows.max())) <= TEXT_DENSE:
        return False
    rest = max(float(np.median(rows)), TEXT_DENSE / 6)
    return densest > TEXT_AGAINST_REST * rest and float((rows > densest / 2).mean()) < TEXT_SHARE


def _strokes(grey: Grey) -> npt.NDArray[np.bool_]:
    """Where a light stroke stands between darker pixels a few columns to its left and right."""
    width = grey.shape[1]
    darker = np.full(grey.shape, 255.0, dtype=np.float32)
    left, right = darker.copy(), darker.copy()
    for step in range(1, TEXT_STROKE + 1):
        left[:, step:] = np.minimum(left[:, step:], grey[:, : width - step])
        right[:, : width - step] = np.minimum(right[:, : width - step], grey[:, step:])
    return np.asarray((grey > TEXT_LIGHT) & (grey - left > TEXT_STEP) & (grey - right > TEXT_STEP))
