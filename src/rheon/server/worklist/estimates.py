"""What was expected of jobs, and how that came out on this machine."""

from __future__ import annotations

import math
import statistics
from collections.abc import Mapping
from typing import Any

from rheon.core.media.documents import load
from rheon.core.planning import Estimate

from .models import Job, JobKind, JobState

NOTHING = Estimate(size_bytes=0, size_low_bytes=0, size_high_bytes=0, time_s=0.0, time_low_s=0.0, time_high_s=0.0)
LATELY = 30
LONG_ENOUGH_S = 2.0
"""What was expected to be quicker says more of starts than of work."""
DOUBT = 2
"""As many files as that, which took as long as was expected, are thought of beside those that were made."""
MOST_TIMES = 10.0


def read_expected(stored: Mapping[str, Any] | None) -> Estimate:
    """What was expected of a job, as it was stored; nothing where no plan said so."""
    if not stored:
        return NOTHING
    try:
        # thousands of rows are read at once, and we wrote them
        return Estimate(**stored)
    except TypeError:
        return load(Estimate, stored)


def times_expected() -> float:
    """How many times as long as on the machines that Rheon was made for files took here lately; 1 where none did."""
    made = Job.objects.filter(state=JobState.DONE, kind__in=(JobKind.CONVERT, JobKind.SAMPLE))
    logs = [
        math.log(made_s / expected_s)
        for stored, made_s in made.order_by("-ended").values_list("expected", "made_s")[:LATELY]
        if made_s and (expected_s := read_expected(stored).at_pace(1.0).time_s) >= LONG_ENOUGH_S
    ]
    if not logs:
        return 1.0
    times = math.exp(statistics.median(logs) * len(logs) / (len(logs) + DOUBT))
    return min(MOST_TIMES, max(1 / MOST_TIMES, times))
