"""The machine that this installation runs on, as plans rest on it."""

from __future__ import annotations

from rheon.core.media import Machine

from .hardware import encoders_of
from .queries import home


def this_machine() -> Machine:
    row = home()
    return Machine(pace=row.pace, encoders=encoders_of(row), prefers_speed=row.prefers_speed)
