"""Black borders around a picture, from pictures all over a title. Pure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from .findings import BordersFound
from .pictures import Luma

BLACK = 30
"""Luma up to which a line counts as black: video black is 16, noise and filters lift it a little."""
BRIGHT = 60
LEAST_BRIGHT = 3
AGREE_LINES = 3
MOST_SHARE = 0.35


def find_borders(pictures: Sequence[Luma]) -> BordersFound | None:
    """The borders that all bright pictures have in common; ``None`` where no picture was bright enough to tell.

    A dark scene shows more black than there is border and so can't shrink the picture; a scene that fills more of
    the frame than others keeps its lines.
    """
    bright = [picture for picture in pictures if _is_bright(picture)]
    if not bright:
        return None
    edges = np.array([_edges(picture) for picture in bright])
    least = edges.min(axis=0)
    lines, columns = bright[0].shape
    if least[0] + least[1] > 2 * MOST_SHARE * lines or least[2] + least[3] > 2 * MOST_SHARE * columns:
        return None
    agreeing = float(np.mean(np.all(np.abs(edges - least) <= AGREE_LINES, axis=1)))
    sure = min(1.0, len(bright) / LEAST_BRIGHT) * (0.5 + 0.5 * agreeing)
    top, bottom, left, right = (int(edge) // 2 * 2 for edge in least)
    return BordersFound(top=top, bottom=bottom, left=left, right=right, sure=round(sure, 2))


def _is_bright(picture: Luma) -> bool:
    return bool(np.percentile(picture[::4, ::4], 75) >= BRIGHT)


def _edges(picture: Luma) -> tuple[int, int, int, int]:
    """Black lines at the top, bottom, left and right."""
    rows = np.percentile(picture, 97, axis=1) <= BLACK
    inside = picture[~rows]
    columns = np.percentile(inside, 97, axis=0) <= BLACK if len(inside) else np.zeros(picture.shape[1], dtype=bool)
    return _leading(rows), _leading(rows[::-1]), _leading(columns), _leading(columns[::-1])


def _leading(dark: np.ndarray) -> int:
    lit = np.flatnonzero(~dark)
    return int(lit[0]) if len(lit) else len(dark)
