"""How whoever has a file made hears of it, and steers it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from ..engine import WorkClock, never
from .progress import Progress


def unheard(progress: Progress) -> None:
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Hooks:
    """How a conversion tells where it is, and is told to stop, or by its ``clock`` to pause."""

    on_progress: Callable[[Progress], None] = unheard
    should_stop: Callable[[], bool] = never
    clock: WorkClock = field(default_factory=WorkClock)
