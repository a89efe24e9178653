"""Whether an engine still comes on: one that hangs, in a driver or in a disk that never answers, says nothing of it."""

from __future__ import annotations

from ..engine import WorkClock
from ..errors import EngineTimedOut
from .progress import Progress

SOFTWARE_S, HARDWARE_S = 3600.0, 600.0
"""How long nothing may come out. The slowest software on the slowest machine takes minutes for its first pictures, a
disk that is woken or a bad sector as long; a chip has nothing to think over."""


class Liveness:
    """Hears of each step, and is asked again and again whether there still are any; while work is paused, none is due.

    What moves is the place in the title and the size of the file: an engine that hangs may go on reporting.
    """

    def __init__(self, clock: WorkClock, *, in_hardware: bool) -> None:
        self._clock = clock
        self._patience_s = HARDWARE_S if in_hardware else SOFTWARE_S
        self._reached = (-1.0, -1)
        self._since_s = clock.worked_s

    def came_to(self, step: Progress) -> None:
        reached = (step.done, step.size_bytes)
        if reached != self._reached:
            self._reached, self._since_s = reached, self._clock.worked_s

    def look(self) -> None:
        """Raises ``EngineTimedOut`` where nothing has come out for too long."""
        still_s = self._clock.worked_s - self._since_s
        if still_s > self._patience_s:
            raise EngineTimedOut("Nothing has come out of the encoder for {minutes:.0f} minutes.", minutes=still_s / 60)
