"""How near the time of completion is that is told while a file is made: ten real runs."""

from __future__ import annotations

import statistics
import tempfile
from collections.abc import Callable
from pathlib import Path

from rheon.core.encoding import Forecast, Hooks, Progress, make_file
from rheon.core.engine import WorkClock
from rheon.core.media import Source, Title
from rheon.core.planning import Balance, PlanRequest, plan
from rheon.demo.models import device

SEEN = 0.1
RUNS = (
    ("heron-8", Balance.EVEN), ("heron-8", Balance.RICH), ("sanderling-2", Balance.EVEN), ("gannet-43", Balance.LEAN),
    ("plover-dash", Balance.EVEN),
)  # fmt: skip


def report(disc: Source, say: Callable[[str, str, str], None]) -> None:
    """Five plans of two titles of a disc: after a tenth of the work, the middle and the range against the truth."""
    found = [run(title, name, balance) for title in disc.titles[:2] for name, balance in RUNS]
    off = [abs(said - took) / took for said, _, took in found]
    held = sum(inside for _, inside, _ in found)
    say(f"time left after a tenth of {len(found)} runs", f"{statistics.median(off):.0%} off", "within 10 %")
    say("truth inside its range", f"{held} of {len(found)}", "four in five")


def run(title: Title, name: str, balance: Balance) -> tuple[float, bool, float]:
    """(seconds that were told to be left, whether the truth was in their range, seconds that it took)."""
    made = plan(PlanRequest(title=title, devices=(device(name),), name="Completion", balance=balance))
    assert made.settings is not None and made.estimate is not None
    clock = WorkClock()
    forecast = Forecast(made.estimate.time_s - made.estimate.checking_s)
    told: list[tuple[float, float, float, float]] = []

    def on_progress(step: Progress) -> None:
        left = forecast.goes(step)
        if step.fraction >= SEEN and not told:
            told.append((clock.worked_s, left.left_s, left.low_s, left.high_s))

    with tempfile.TemporaryDirectory() as folder:
        make_file(title, made.settings, Path(folder) / ".rheon-bench.part", Hooks(on_progress=on_progress, clock=clock))
    at_s, left_s, low_s, high_s = told[0]
    took_s = clock.worked_s - at_s
    return left_s, low_s <= took_s <= high_s, took_s
