"""How much noise or grain lies over the pictures, from where they are flattest and stand most still. Pure.

Noise of still areas, by the difference of second differences, which sees neither flat areas nor straight ramps
(Immerkær, Fast Noise Variance Estimation, 1996), and by what changes from picture to picture. What moves and what has
texture only adds to either, so that the lesser of both, in the quietest blocks, is nearest the truth.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from .pictures import Luma

BLOCK = 16
QUIET = 50
"""Percentile of the blocks: half of most pictures is flat or stands still."""
DARKEST, BRIGHTEST = 30, 220
LEAST_BLOCKS = 12


def find_noise(stretches: list[Luma]) -> float | None:
    """Standard deviation in steps of eight bits; ``None`` where no picture has anything but black and white."""
    found = [one for stretch in stretches if (one := _of_stretch(stretch)) is not None]
    return round(float(np.median(found)), 2) if found else None


def _of_stretch(stretch: Luma) -> float | None:
    # lines of one moment, whatever the fields are
    lines = stretch[:, ::2].astype(np.float32)
    grey = [(one > DARKEST) & (one < BRIGHTEST) for one in _blocks(lines).mean(axis=(3, 4))]
    flat = [_quiet(_spread(_second_differences(lines[at])), grey[at]) for at in (0, len(lines) - 1)]
    still = [
        _quiet(_spread(np.diff(lines[at : at + 2], axis=0) / np.sqrt(2)), grey[at]) for at in range(len(lines) - 1)
    ]
    spatial = [one for one in flat if one is not None]
    # a picture that comes twice says nothing: some do, in film and drawn ones
    temporal = [one for one in still if one is not None]
    if not spatial:
        return None
    found = [float(np.median(spatial))]
    if temporal:
        found.append(float(np.percentile(temporal, 75)))
    return min(found)


def _second_differences(picture: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    across = picture[:, :-2] - 2 * picture[:, 1:-1] + picture[:, 2:]
    both = across[:-2] - 2 * across[1:-1] + across[2:]
    padded: npt.NDArray[np.float32] = np.pad(both / 6, 1)[None]
    return padded


def _spread(pictures: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """The root mean square in each block of one picture."""
    spread: npt.NDArray[np.float32] = np.sqrt((_blocks(pictures)[0] ** 2).mean(axis=(2, 3)))
    return spread


def _blocks(pictures: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """Shape (pictures, blocks down, blocks across, lines, columns)."""
    count, lines, columns = pictures.shape
    down, across = lines // BLOCK, columns // BLOCK
    cut = pictures[:, : down * BLOCK, : across * BLOCK]
    return cut.reshape(count, down, BLOCK, across, BLOCK).swapaxes(2, 3)


def _quiet(spread: npt.NDArray[np.float32], grey: npt.NDArray[np.bool_]) -> float | None:
    inside = spread[grey]
    return float(np.percentile(inside, QUIET)) if len(inside) >= LEAST_BLOCKS else None
