"""What sentences are made of."""

from __future__ import annotations

from collections.abc import Mapping

Values = Mapping[str, object]
"""What a reason or a problem holds, by the names of a sentence's places."""


def number(value: object) -> float:
    """A value as a number; 0 for what is none, since what is stored may be older than what is said of it."""
    return float(value) if isinstance(value, int | float) else 0.0
