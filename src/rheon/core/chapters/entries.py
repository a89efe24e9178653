"""One chapter of a list."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Listed:
    """``start_s`` is ``None`` where a list has names only; an empty name is none."""

    name: str
    start_s: float | None = None


def listed(name: object, start_s: float | None) -> Listed:
    """With the name in one line."""
    return Listed(name=" ".join(str(name or "").split()), start_s=start_s)
