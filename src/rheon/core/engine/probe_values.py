"""Reading what a program said, whatever it said: values within bounds, or their default. Pure."""

from __future__ import annotations

import math
from typing import Any

MOST = 2**53
LONGEST_S = 1e7
"""About four months: no title lasts longer, and a header that says so is wrong."""


def mapping(value: object) -> dict[str, Any]:
    return value if isinstance(value, dict) else {}


def entries(value: object) -> list[dict[str, Any]]:
    """The mappings in a list."""
    return [entry for entry in value if isinstance(entry, dict)] if isinstance(value, list) else []


def whole(value: object, most: int = MOST) -> int | None:
    """A whole number from 0 to ``most``, as a number or as text; ``None`` for anything else."""
    number = decimal(value)
    return int(number) if number is not None and 0 <= number <= most and number == int(number) else None


def decimal(value: object) -> float | None:
    """A finite number, as a number or as text; ``None`` for anything else."""
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        return None
    try:
        number = float(value)
    except (ValueError, OverflowError):
        return None
    return number if math.isfinite(number) else None


def seconds(value: object) -> float | None:
    """A length of time that a title may have; ``None`` for anything else."""
    number = decimal(value)
    return number if number is not None and 0 <= number < LONGEST_S else None


def words(value: object, longest: int = 500) -> str | None:
    """Text, cut to a sensible length; ``None`` for none."""
    return str(value)[:longest] if value not in (None, "") and isinstance(value, str | int | float) else None
