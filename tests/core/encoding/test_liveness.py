"""An engine that hangs is given up; one that is slow or paused is not."""

from __future__ import annotations

import pytest

from rheon.core.encoding import Progress
from rheon.core.encoding.liveness import HARDWARE_S, SOFTWARE_S, Liveness
from rheon.core.engine import WorkClock
from rheon.core.errors import EngineTimedOut


@pytest.mark.parametrize(("in_hardware", "patience_s"), [(True, HARDWARE_S), (False, SOFTWARE_S)])
@pytest.mark.parametrize("moved", ["done", "size_bytes", "neither"])
def test_an_engine_is_given_up_when_nothing_has_come_out_for_too_long(
    in_hardware: bool, patience_s: float, moved: str
) -> None:
    now_s, paused = 50.0, False
    clock = WorkClock(lambda: paused, lambda: now_s)
    liveness = Liveness(clock, in_hardware=in_hardware)
    facts = {"done": 0.0, "size_bytes": 0}

    def report() -> None:
        liveness.came_to(Progress(total=9.0, speed=now_s, worked_s=now_s, **facts))  # type: ignore[arg-type]

    report()
    for _ in range(3):
        now_s += 0.9 * patience_s
        liveness.look()
        # a night in which the work stands still
        paused = True
        clock.is_paused()
        now_s += 30_000.0
        paused = False
        clock.is_paused()
        liveness.look()
        if moved == "neither":
            report()
            now_s += 0.2 * patience_s
            with pytest.raises(EngineTimedOut, match=f"for {1.1 * patience_s / 60:.0f} minutes"):
                liveness.look()
            return
        facts[moved] += 1
        report()
    liveness.look()
