"""How likely people are the subject of a frame: patches in the colours of skin, of a head's shape, in the middle.

Skin of all tones lies in a narrow range of chroma, whatever its luma (Chai and Ngan, "Face segmentation using
skin-color map in videophone applications", IEEE Transactions on Circuits and Systems for Video Technology 9:4, 1999).
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt
from PIL import Image

Mask = npt.NDArray[np.bool_]
CB, CR = (77, 127), (136, 173)
LEAST_LUMA = 40
GRID = (64, 36)
LEAST, MOST = 0.006, 0.30
"""The share of the frame that a face takes; more is a wall or sand."""
SHAPE = (0.45, 1.5)
FILLED = 0.5
SEVERAL = 2
"""So many faces are as good as it gets."""


def face_share(picture: Image.Image) -> float:
    """0 where nothing looks like a face, 1 where several in the middle do."""
    small = picture.convert("YCbCr").resize(GRID, Image.Resampling.BOX)
    luma, blue, red = np.moveaxis(np.asarray(small, dtype=np.int16), 2, 0)
    skin = (blue >= CB[0]) & (blue <= CB[1]) & (red >= CR[0]) & (red <= CR[1]) & (luma >= LEAST_LUMA)
    if skin.mean() > MOST:
        return 0.0
    return min(1.0, sum(_worth(patch) for patch in _patches(skin)) / SEVERAL)


def _worth(cells: npt.NDArray[np.intp]) -> float:
    """1 for a patch like a head in the middle, less at the edges, 0 for anything else."""
    across, down = GRID
    rows, columns = cells[:, 0], cells[:, 1]
    high, wide = int(np.ptp(rows)) + 1, int(np.ptp(columns)) + 1
    share = len(cells) / (across * down)
    filled = len(cells) / (high * wide)
    if not (LEAST <= share <= MOST and SHAPE[0] <= wide / high <= SHAPE[1] and filled >= FILLED):
        return 0.0
    off = abs(float(columns.mean()) / across - 0.5) * 2
    return 1 - 0.6 * off


def _patches(mask: Mask) -> Iterator[npt.NDArray[np.intp]]:
    """Cells that hang together, four ways."""
    left = mask.copy()
    while left.any():
        start = np.argwhere(left)[0]
        found, edge = [], [(int(start[0]), int(start[1]))]
        left[edge[0]] = False
        while edge:
            row, column = edge.pop()
            found.append((row, column))
            for near in ((row - 1, column), (row + 1, column), (row, column - 1), (row, column + 1)):
                if 0 <= near[0] < left.shape[0] and 0 <= near[1] < left.shape[1] and left[near]:
                    left[near] = False
                    edge.append(near)
        yield np.array(found)
