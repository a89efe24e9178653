"""Rates and aspects as exact fractions, and their text forms."""

from __future__ import annotations

from fractions import Fraction

FILM = Fraction(24000, 1001)
NTSC = Fraction(30000, 1001)
PAL = Fraction(25)


def parse_fraction(text: object) -> Fraction | None:
    """Read ``30000/1001``, ``16:9`` or ``25``; ``None`` for absent, zero or senseless values."""
    if not isinstance(text, str) or not 0 < len(text) <= 40:
        return None
    try:
        above, _, below = text.replace(":", "/").partition("/")
        value = Fraction(int(above), int(below or 1))
    except (ValueError, ZeroDivisionError):
        return None
    return value if value > 0 else None


def rate_text(rate: Fraction) -> str:
    """The rate as the contracts print it: always a fraction, ``25/1`` included."""
    return f"{rate.numerator}/{rate.denominator}"


USUAL_ASPECTS = {
    "4:3": Fraction(4, 3),
    "16:9": Fraction(16, 9),
    "1:1": Fraction(1),
    "3:4": Fraction(3, 4),
    "9:16": Fraction(9, 16),
}


def aspect_text(aspect: Fraction) -> str:
    """A display aspect as people write it: the nearest usual name, else the ratio to two places."""
    for name, usual in USUAL_ASPECTS.items():
        if abs(aspect - usual) < Fraction(1, 50):
            return name
    return f"{float(aspect):.2f}:1"
