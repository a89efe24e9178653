"""Black borders around a picture, from pictures all over a title. Pure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from ..media import Borders
from .findings import BordersFound
from .pictures import Luma

BLACK = 30
"""Luma up to which a line counts as black: video black is 16, filters lift it a little, and noise as it is coded."""
BRIGHT = 60
LEAST_BRIGHT = 3
AGREE_LINES = 3
MOST_SHARE = 0.35
LEAST_OFTEN, OFTEN_SHARE = 3, 0.15
"""How many pictures, and which share of the bright ones, have to agree on more black for it to be another shape."""
EVEN_LINES = 6
"""Bars at opposite sides are about as high; what only one side has is a dark sky."""


def find_borders(pictures: Sequence[tuple[float, Luma]], noise: float | None = None) -> BordersFound | None:
    """The borders that all bright pictures have in common; ``None`` where no picture was bright enough to tell.

    ``pictures`` come with their moments (seconds). A dark scene shows more black than there is border and so can't
    shrink the picture; a scene that fills more of the frame than others keeps its lines. Where many others agree on
    more black than that, the picture changes its shape, and theirs are told too. ``noise``: its standard deviation in
    steps of eight bits.
    """
    bright = [(at_s, picture) for at_s, picture in pictures if _is_bright(picture)]
    if not bright:
        return None
    black = BLACK + (noise or 0.0)
    edges = np.array([_edges(picture, black) for _, picture in bright])
    least = edges.min(axis=0)
    lines, columns = bright[0][1].shape
    if least[0] + least[1] > 2 * MOST_SHARE * lines or least[2] + least[3] > 2 * MOST_SHARE * columns:
        return None
    agreeing = _agree(edges, least)
    often = _often(edges[~agreeing], least, len(bright))
    known = agreeing if often is None else agreeing | _agree(edges, often)
    sure = min(1.0, len(bright) / LEAST_BRIGHT) * (0.5 + 0.5 * float(np.mean(known)))
    top, bottom, left, right = _pairs(least)
    return BordersFound(
        top=top,
        bottom=bottom,
        left=left,
        right=right,
        sure=round(sure, 2),
        often=None if often is None else _borders(often),
        often_share=0.0 if often is None else round(float(np.mean(_agree(edges, often))), 2),
        widest_at_s=round(bright[int(edges.sum(axis=1).argmin())][0], 3),
    )


def _often(others: npt.NDArray[np.int_], least: npt.NDArray[np.int_], count: int) -> npt.NDArray[np.int_] | None:
    """The borders on which the most of the pictures with more black agree, where these are many and bars; else none."""
    if not len(others):
        return None
    agreeing = [_agree(others, own) for own in others]
    most = max(agreeing, key=lambda one: int(one.sum()))
    if most.sum() < max(LEAST_OFTEN, OFTEN_SHARE * count):
        return None
    common: npt.NDArray[np.int_] = others[most].min(axis=0)
    more = common - least
    bars = abs(more[0] - more[1]) <= EVEN_LINES and abs(more[2] - more[3]) <= EVEN_LINES
    return common if bars else None


def _agree(edges: npt.NDArray[np.int_], own: npt.NDArray[np.int_]) -> npt.NDArray[np.bool_]:
    found: npt.NDArray[np.bool_] = np.all(np.abs(edges - own) <= AGREE_LINES, axis=1)
    return found


def _borders(edges: npt.NDArray[np.int_]) -> Borders:
    top, bottom, left, right = _pairs(edges)
    return Borders(top=top, bottom=bottom, left=left, right=right)


def _pairs(edges: npt.NDArray[np.int_]) -> tuple[int, int, int, int]:
    """Even, since colour is stored for two lines and columns."""
    top, bottom, left, right = (int(edge) // 2 * 2 for edge in edges)
    return top, bottom, left, right


def _is_bright(picture: Luma) -> bool:
    return bool(np.percentile(picture[::4, ::4], 75) >= BRIGHT)


def _edges(picture: Luma, black: float) -> tuple[int, int, int, int]:
    """Black lines at the top, bottom, left and right."""
    rows = np.percentile(picture, 97, axis=1) <= black
    inside = picture[~rows]
    columns = np.percentile(inside, 97, axis=0) <= black if len(inside) else np.zeros(picture.shape[1], dtype=bool)
    return _leading(rows), _leading(rows[::-1]), _leading(columns), _leading(columns[::-1])


def _leading(dark: np.ndarray) -> int:
    lit = np.flatnonzero(~dark)
    return int(lit[0]) if len(lit) else len(dark)
