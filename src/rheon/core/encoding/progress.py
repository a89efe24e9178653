"""How far the engine is, from what it prints."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..engine import WorkClock

FIRST_PASS_PART = 0.4


class ProgressUnit(StrEnum):
    """What is counted while something is made: seconds of the title, or bytes read."""

    SECONDS = "seconds"
    BYTES = "bytes"


@dataclass(frozen=True, slots=True, kw_only=True)
class Progress:
    """How far the work is: done of how many, in ``unit``; bytes written; times real time; how long it has been worked
    on what is made, without pauses. ``checked`` is the share of it that was checked, once all is made.
    """

    done: float
    total: float
    size_bytes: int
    speed: float
    worked_s: float
    unit: ProgressUnit = ProgressUnit.SECONDS
    checked: float = 0.0

    @property
    def fraction(self) -> float:
        return min(1.0, self.done / self.total) if self.total > 0 else 0.0


class ProgressReader:
    """Gathers the ``key=value`` lines of one report; gives a ``Progress`` when the report is complete.

    How quick it is, is measured by ``clock``, which stands while the engine does. What is made was begun at ``began_s``
    of it, before this pass.
    """

    def __init__(
        self, total_s: float, clock: WorkClock, began_s: float, at_pass: int = 0, frame_rate: float | None = None
    ) -> None:
        self._total_s = total_s
        self._clock = clock
        self._began_s, self._pass_began_s = began_s, clock.worked_s
        self._frame_rate = frame_rate
        self._at_pass = at_pass
        self._values: dict[str, str] = {}

    def line(self, text: str) -> Progress | None:
        key, _, value = text.partition("=")
        self._values[key] = value.strip()
        if key != "progress":
            return None
        done = max(0.0, _number(self._values.get("out_time_us")) / 1e6, self._counted_s())
        if value.strip() == "end":
            done = max(done, self._total_s)
        now_s = self._clock.worked_s
        pass_s = now_s - self._pass_began_s
        return Progress(
            done=self._of_both(done),
            total=self._total_s,
            size_bytes=int(_number(self._values.get("total_size"))),
            speed=done / pass_s if pass_s > 0 else 0.0,
            worked_s=now_s - self._began_s,
        )

    def _counted_s(self) -> float:
        """Where the pictures are; the time that the engine reports leaves out what came before its first report."""
        return _number(self._values.get("frame")) / self._frame_rate if self._frame_rate else 0.0

    def _of_both(self, done: float) -> float:
        """The first of two passes is the first part of the way."""
        if self._at_pass == 1:
            return done * FIRST_PASS_PART
        if self._at_pass == 2:
            return self._total_s * FIRST_PASS_PART + done * (1 - FIRST_PASS_PART)
        return done


def _number(text: str | None) -> float:
    try:
        return float(text or 0)
    except ValueError:
        return 0.0
