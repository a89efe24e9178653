"""How much of the machine the making may take now, and whether the machine itself stands against it."""

from __future__ import annotations

from datetime import time
from enum import StrEnum

from django.utils import timezone

from rheon.core.system import available_bytes, cores, power

from .hours import Hours
from .models import MachineShare, Pace


class Strain(StrEnum):
    """What a machine can't be asked more of: it lives on its battery, is nearly too hot to go on, or others want it."""

    BATTERY = "battery"
    HEAT = "heat"
    OTHERS = "others"


DAY_BEGINS, DAY_ENDS = time(7), time(22)
MOST_AT_ONCE = 4
SPARE_MEMORY_BYTES = 1 << 30
"""So much has to be left before another file is made beside those that are."""


def most_at_once() -> int:
    """As many files as the machine has cores, but not more than disks and memory bear."""
    return min(MOST_AT_ONCE, len(cores()))


def bears_another() -> bool:
    """Whether there is memory for one more file beside those that are being made."""
    left = available_bytes()
    return left is None or left >= SPARE_MEMORY_BYTES


def cores_where_room(now: Pace) -> int:
    """How many cores are used where room is left: half of them, unless somebody said."""
    return min(now.cores or max(1, len(cores()) // 2), len(cores()))


def leaves_room(now: Pace) -> bool:
    """Whether room is left just now."""
    if now.share == MachineShare.BY_DAY:
        day = Hours(begins=DAY_BEGINS, ends=DAY_ENDS, zone=now.day_zone or timezone.get_current_timezone_name())
        return day.is_open(timezone.now())
    return now.share == MachineShare.LEAVE_ROOM


def cores_now(now: Pace) -> int:
    return cores_where_room(now) if leaves_room(now) else len(cores())


def spared_for(now: Pace) -> Strain | None:
    """Why everything stands still for the machine's sake; ``None`` where it does not."""
    if now.hot:
        return Strain.HEAT
    if not now.battery_too and power().on_battery:
        return Strain.BATTERY
    return Strain.OTHERS if now.only_idle and now.busy else None
