"""How a scan tells where it is, and is told to stop."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..engine import never
from ..errors import Stopped


def _nobody(number: int, total: int) -> None:
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class ScanProgress:
    """``on_title`` gets (title number, how many there are); ``should_stop`` is asked before each title."""

    on_title: Callable[[int, int], None] = _nobody
    should_stop: Callable[[], bool] = never

    def at(self, number: int, total: int) -> None:
        """Say which title is read now. Raises ``Stopped`` where somebody asked for it."""
        if self.should_stop():
            raise Stopped("Reading was stopped.")
        self.on_title(number, total)
