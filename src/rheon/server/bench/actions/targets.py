"""Adding and removing what files are made for."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Count, F
from django.utils import timezone

from rheon.core.devices import goals
from rheon.core.errors import NoSuchDevice, PlanError
from rheon.server.household.actions.devices import mark_used as mark_devices_used
from rheon.server.household.models import Device

from ..models import Target, TargetKind


def add_device_target(device: Device) -> Target:
    """Every device of the household is a target."""
    return Target.objects.get_or_create(device=device)[0]


def add_goal(goal_id: str) -> Target:
    """Make files for a goal too; one that is there already is given back. Raises ``NoSuchDevice``."""
    if goal_id not in goals():
        raise NoSuchDevice("There is no goal called {device}.", device=goal_id)
    return Target.objects.get_or_create(kind=TargetKind.GOAL, goal=goal_id)[0]


def add_shared(device_ids: Sequence[int]) -> Target:
    """Make one file for several devices; the same several are given back. Raises ``PlanError`` for fewer than two."""
    found = list(Device.objects.filter(pk__in=device_ids))
    if len(found) < 2:
        raise PlanError("One file is shared by two devices at least.", advice="Choose two or more.")
    wanted = {device.pk for device in found}
    for row in Target.objects.filter(kind=TargetKind.SHARED).prefetch_related("shares"):
        if {device.pk for device in row.shares.all()} == wanted:
            return row
    row = Target.objects.create(kind=TargetKind.SHARED)
    row.shares.set(found)
    return row


def drop_lonely() -> None:
    """A shared file that is left with fewer than two devices is none any more."""
    few = Target.objects.filter(kind=TargetKind.SHARED).annotate(count=Count("shares")).filter(count__lt=2)
    few.delete()


def mark_used(targets: Sequence[Target]) -> None:
    """Files are being made for these: they come first from now on."""
    mark_devices_used([target.device_id for target in targets if target.device_id is not None])
    others = [target.pk for target in targets if target.device_id is None]
    Target.objects.filter(pk__in=others).update(used=F("used") + 1, last_used=timezone.now())
