"""A picture of one shape within a frame of another. Pure."""

from __future__ import annotations

from fractions import Fraction

from .streams import Borders

SAME_SHAPE = Fraction(1, 50)
"""Ratios that differ by less are the same one, rounded to whole pixels."""


def halves(side: int, used: Fraction) -> tuple[int, int]:
    """What is left of a side at both ends where ``used`` of it is in the middle, in whole pairs of pixels."""
    left = side - max(2, round(used / 2) * 2)
    return left // 4 * 2, left - left // 4 * 2


def bars_around(size: tuple[int, int], shape: Fraction, shown: Fraction) -> Borders:
    """What lies beside or above and below a picture of the aspect ratio ``shown`` in a frame of ``size`` (pixels) and
    aspect ratio ``shape``.
    """
    width, height = size
    if abs(shown / shape - 1) < SAME_SHAPE:
        return Borders()
    if shown > shape:
        top, bottom = halves(height, height * shape / shown)
        return Borders(top=top, bottom=bottom)
    left, right = halves(width, width * shown / shape)
    return Borders(left=left, right=right)
