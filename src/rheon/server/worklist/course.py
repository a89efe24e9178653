"""How a job goes: what its row says of it while it is made, and how long that took."""

from __future__ import annotations

import time
from dataclasses import dataclass, field

from rheon.core.encoding import Forecast, Progress

from .estimates import read_expected, times_expected
from .models import Job

TELL_EVERY_S = 0.4


@dataclass(slots=True)
class Course:
    """Told of each step of a job, it writes the row now and then; a making that begins anew is foreseen anew."""

    job: Job
    times: float = field(default_factory=times_expected)
    forecast: Forecast | None = None
    worked_s: float = 0.0
    told: float = 0.0

    def on_progress(self, step: Progress) -> None:
        if self.forecast is None or step.worked_s < self.worked_s:
            self.forecast = Forecast.of(read_expected(self.job.expected).at_pace(self.times))
        self.worked_s = step.worked_s
        left = self.forecast.goes(step)
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
