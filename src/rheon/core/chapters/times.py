"""Moments as lists of chapters write them."""

from __future__ import annotations

import re

CLOCK = r"(?:(\d{1,3}):)?(\d{1,3}):(\d{2})(?:[.,:](\d{1,9}))?"
"""Hours, minutes, seconds and what is behind their point."""
MOST_S = 1000 * 3600


def clock_s(said: str) -> float | None:
    """Seconds of ``1:02:03.5`` or ``2:03``; ``None`` where it is no such moment."""
    found = re.fullmatch(CLOCK, said.strip())
    if found is None:
        return None
    hours, minutes, seconds, behind = found.groups()
    if int(seconds) > 59 or (hours is not None and int(minutes) > 59):
        return None
    return int(hours or 0) * 3600 + int(minutes) * 60 + float(f"{int(seconds)}.{behind or 0}")
