"""How a job goes: what its row says of it while it is made, and how long that took."""

from __future__ import annotations

import time
from dataclasses import dataclass, field

from rheon.core.encoding import Forecast, Progress
from rheon.core.engine import WorkClock

from .estimates import read_expected, times_expected
from .models import Job

TELL_EVERY_S = 0.4


@dataclass(slots=True)
class Course:
    """Told of each step of a job, it writes the row now and then; a making that begins anew is foreseen anew."""

    job: Job
    clock: WorkClock
    times: float = field(default_factory=times_expected)
    forecast: Forecast | None = None
    fraction: float = 0.0
    began_s: float = 0.0
    told: float = 0.0

    def on_progress(self, step: Progress) -> None:
        if self.forecast is None or step.fraction < self.fraction:
            # the engine began before its first report
            since_s = step.done / step.speed if step.speed > 0 else 0.0
            self.began_s = self.clock.worked_s - since_s
            self.forecast = self._foreseen()
        self.fraction = step.fraction
        left = self.forecast.went(step.fraction, self.clock.worked_s - self.began_s)
        if time.monotonic() - self.told < TELL_EVERY_S and step.fraction < 1:
            return
        self.told = time.monotonic()
        self.job.own_row().update(
            fraction=step.fraction,
            done=step.done,
            speed=step.speed,
            written_bytes=step.size_bytes,
            left_s=left.left_s,
            left_low_s=left.low_s,
            left_high_s=left.high_s,
            stage="checking" if step.fraction >= 1 else "making",
        )

    def ended(self) -> None:
        """Keep how long it took, and how long it stood still."""
        made_s = None if self.forecast is None else self.clock.worked_s - self.began_s
        self.job.own_row().update(paused_s=self.clock.paused_s, made_s=made_s)

    def _foreseen(self) -> Forecast:
        expected = read_expected(self.job.expected)
        making_s = max(0.0, expected.time_s - expected.checking_s)
        return Forecast(making_s * self.times, expected.checking_s * self.times)
