"""Waiting for what another process or thread does."""

from __future__ import annotations

import time
from collections.abc import Callable


def until(holds: Callable[[], bool], most_s: float = 120.0) -> None:
    """Fails where it does not hold in time."""
    end = time.monotonic() + most_s
    while not holds():
        assert time.monotonic() < end
        time.sleep(0.05)
