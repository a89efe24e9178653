"""What files are made for, in the order of the Bench."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone

from rheon.core.devices import goals
from rheon.server.household.queries import worth

from .models import Target, TargetKind

ORDER = {TargetKind.DEVICE: 0, TargetKind.SHARED: 1, TargetKind.GOAL: 2}


def targets(now: datetime | None = None) -> list[Target]:
    """Devices, shared files, goals; in each favourites first, then what is used most and latest.

    A goal that is not shipped any more is left out.
    """
    at = now or timezone.now()

    def place(row: Target) -> tuple[int, bool, float, int, int]:
        device = row.device
        used = worth(device, at) if device else worth(row, at)
        favourite, position = (device.favourite, device.position) if device else (False, 0)
        return ORDER[TargetKind(row.kind)], not favourite, -round(used, 1), position, row.pk

    rows = Target.objects.select_related("device__member").prefetch_related("shares")
    return sorted((row for row in rows if not row.goal or row.goal in goals()), key=place)
