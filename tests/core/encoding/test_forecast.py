"""The time that is left, held against simulated runs: its middle, its range, and that it does not jump."""

from __future__ import annotations

import math
import random
import statistics
from itertools import pairwise

import pytest

from rheon.core.encoding.forecast import Forecast

STEPS = 500


def run(seed: int, spread: float, alike: float, off: float) -> list[tuple[float, float]]:
    """A run whose speed wanders with its pictures: (fraction, seconds worked); 100 s were expected."""
    rand = random.Random(seed)
    whole = math.exp(rand.gauss(0, off))
    keeps = math.exp(-1 / (alike * STEPS))
    local, at_s, told = rand.gauss(0, spread), 0.0, []
    for step in range(1, STEPS + 1):
        local = keeps * local + math.sqrt(1 - keeps**2) * rand.gauss(0, spread)
        at_s += whole * math.exp(local) * 100 / STEPS
        told.append((step / STEPS, at_s))
    return told


@pytest.mark.parametrize(
    ("spread", "alike", "off"), [(0.2, 0.05, 0.5), (0.1, 0.1, 0.7), (0.2, 0.03, 0.3), (0.0, 0.05, 1.0)]
)
def test_after_a_tenth_the_range_holds_four_in_five_and_the_middle_is_near(
    spread: float, alike: float, off: float
) -> None:
    for at in (0.1, 0.3, 0.6, 0.9):
        held, errors, widths = 0, [], []
        for seed in range(100):
            told = run(seed, spread, alike, off)
            forecast = Forecast(100.0)
            for fraction, worked_s in told[: round(at * STEPS)]:
                left = forecast.went(fraction, worked_s)
            truth = told[-1][1] - told[round(at * STEPS) - 1][1]
            held += left.low_s <= truth <= left.high_s
            errors.append(abs(left.left_s - truth) / told[-1][1])
            widths.append((left.high_s - left.low_s) / truth)
        assert held >= 80
        assert statistics.median(errors) < 0.1
        # a range that holds everything says nothing
        assert statistics.median(widths) < (0.75 if at < 0.9 else 0.9)


@pytest.mark.parametrize("seed", range(20))
def test_the_time_of_completion_does_not_jump_and_its_range_narrows(seed: int) -> None:
    told = run(seed, 0.2, 0.05, 0.5)
    forecast, ends, widths = Forecast(100.0, 5.0), [], []
    for fraction, worked_s in told:
        left = forecast.went(fraction, worked_s)
        assert 0 <= left.low_s <= left.left_s <= left.high_s
        ends.append(worked_s + left.left_s)
        widths.append(left.high_s - left.low_s)
    late = ends[STEPS // 10 :]
    assert max(abs(one - other) for one, other in pairwise(late)) < 0.02 * told[-1][1]
    assert widths[-1] < widths[STEPS // 10] < widths[0]
    assert ends[-1] == pytest.approx(told[-1][1] * 1.05, rel=0.05)


def test_before_it_begins_it_is_what_was_expected() -> None:
    left = Forecast(60.0, 6.0).left()
    assert left.left_s == pytest.approx(66.0)
    assert left.low_s < 40 and left.high_s > 100


@pytest.mark.parametrize("start_s", [0.3, 5.0])
def test_what_passes_before_anything_comes_out_says_nothing_of_the_rest(start_s: float) -> None:
    forecast = Forecast(100.0)
    for step in range(1, 51):
        left = forecast.went(step / 500, start_s + step / 5)
    assert left.left_s == pytest.approx(90.0, rel=0.01)
    assert left.low_s < 90 < left.high_s


def test_while_it_is_checked_what_is_left_is_foreseen_by_how_that_goes() -> None:
    forecast = Forecast(100.0, 20.0)
    for step in range(1, 101):
        forecast.went(step / 100, float(step))
    told = [forecast.checks(step / 20, 100.0 + 2 * step) for step in range(21)]  # half as quick as was expected
    assert told[0].left_s == pytest.approx(20.0)
    assert [left.left_s for left in told[2:]] == pytest.approx([2 * (20 - step) for step in range(2, 21)], rel=0.1)
    assert all(left.low_s <= 2 * (20 - step) <= left.high_s for step, left in enumerate(told) if step > 1)
