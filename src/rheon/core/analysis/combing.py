"""How much the lines of whole pictures differ where nothing is combed: what looks combed must differ by more. Pure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from ..commands.making.filters import COMBED_PIXELS
from ..media import COMB_LIMIT
from .pictures import Luma

LIMITS = (COMB_LIMIT, 12, 16, 21, 28, 36)
CELL = 8
"""A block has two cells each way; they overlap by one."""
FEW_PIXELS = COMBED_PIXELS * 4 // 5
"""In a block, a little fewer than the engine is told to let pass: it counts at the picture's edges too."""
FEW_PICTURES = 0.1
"""A share of them."""


def comb_limit(pictures: Sequence[Luma]) -> int:
    """The least limit, in steps of eight bits, at which hardly any of these pictures is held to be combed.

    Their lines are all of one moment: what looks combed in them is fine lines and grain.
    """
    for limit in LIMITS:
        held = [combed_pixels(picture, limit) > FEW_PIXELS for picture in pictures]
        if sum(held) <= FEW_PICTURES * len(held):
            return limit
    return LIMITS[-1]


def combed_pixels(picture: Luma, limit: int) -> int:
    """The most combed pixels in any block, counted as the engine's field matching does (``cthresh`` of fieldmatch).

    A pixel counts where it and those above and below lie outside of their neighbours by more than ``limit``, and the
    whole column around it goes up and down.
    """
    lines = picture.astype(np.int16)
    here, above, below = lines[2:-2], lines[1:-3], lines[3:-1]
    over = np.minimum(here - above, here - below) > limit
    under = np.maximum(here - above, here - below) < -limit
    wave = np.abs(lines[:-4] + 4 * here + lines[4:] - 3 * (above + below)) > 6 * limit
    combed = np.pad((over | under) & wave, ((2, 2), (0, 0)))
    # blocks lie where the engine has them
    columns = np.pad(combed[:-2] & combed[1:-1] & combed[2:], ((1, 1), (0, 0)))
    return int(_in_blocks(columns).max(initial=0))


def _in_blocks(marked: npt.NDArray[np.bool_]) -> npt.NDArray[np.int64]:
    """How many are marked in each block of two by two cells."""
    down, across = marked.shape[0] // CELL, marked.shape[1] // CELL
    cells = marked[: down * CELL, : across * CELL].reshape(down, CELL, across, CELL).sum(axis=(1, 3))
    found: npt.NDArray[np.int64] = cells[:-1, :-1] + cells[1:, :-1] + cells[:-1, 1:] + cells[1:, 1:]
    return found
