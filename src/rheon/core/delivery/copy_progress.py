"""How far a copy is that is read twice: once to be written, once to be verified."""

from __future__ import annotations

import time
from dataclasses import dataclass

from ..encoding import Hooks, Progress, ProgressUnit
from ..errors import Stopped

PAUSE_POLL_S = 0.2


@dataclass(slots=True)
class CopyProgress:
    """Counts bytes over both readings; ``began_s`` is the reading of the hooks' clock when it began."""

    hooks: Hooks
    total_bytes: int = 0
    done_bytes: int = 0
    began_s: float = 0.0

    def went(self, count: int) -> None:
        """Tell how far it is, and wait while it is paused. Raises ``Stopped`` where that was asked for."""
        while True:
            if self.hooks.should_stop():
                raise Stopped("The copy was stopped.")
            if not self.hooks.clock.is_paused():
                break
            time.sleep(PAUSE_POLL_S)
        self.done_bytes += count
        self.hooks.on_progress(
            Progress(
                done=self.done_bytes,
                total=2 * self.total_bytes,
                unit=ProgressUnit.BYTES,
                size_bytes=min(self.done_bytes, self.total_bytes),
                speed=0.0,
                worked_s=self.hooks.clock.worked_s - self.began_s,
            )
        )
