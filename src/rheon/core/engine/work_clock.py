"""Time that is worked: while work is paused, it stands."""

from __future__ import annotations

import time
from collections.abc import Callable

from .steering import never


class WorkClock:
    """Seconds since it was made, without those in which the work was paused.

    Whoever works asks it ``is_paused`` again and again; so it knows how long that lasted.
    """

    def __init__(self, asked: Callable[[], bool] = never, time_s: Callable[[], float] = time.monotonic) -> None:
        self._asked = asked
        self._time_s = time_s
        self._began_s = time_s()
        self._paused_s = 0.0
        self._paused_since_s: float | None = None

    def is_paused(self) -> bool:
        """Whether work is to stand still now."""
        paused, now_s = self._asked(), self._time_s()
        if self._paused_since_s is not None:
            self._paused_s += now_s - self._paused_since_s
        self._paused_since_s = now_s if paused else None
        return paused

    @property
    def paused_s(self) -> float:
        """How long the work has stood still."""
        standing_s = 0.0 if self._paused_since_s is None else self._time_s() - self._paused_since_s
        return self._paused_s + standing_s

    @property
    def worked_s(self) -> float:
        return self._time_s() - self._began_s - self.paused_s
