"""Adding, changing and removing devices, what several share, and goals."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import Count, F, Max
from django.utils import timezone

from rheon.core.devices import DeviceProfile, goals, load_profile
from rheon.core.devices import device as catalogue_device
from rheon.core.errors import NoSuchDevice, PlanError

from ..models import Column, Device


def add_device(profile_id: str, name: str = "") -> Device:
    """Add a device of the catalogue under a name. Raises ``NoSuchDevice``."""
    return _added(catalogue_device(profile_id), name)


def add_own_device(document: str, name: str = "") -> Device:
    """Add a device from a profile's JSON document. Raises ``BadProfile`` with a clause for each bad field."""
    return _added(load_profile(document), name)


def add_goal(goal_id: str) -> Device:
    """Make files for a goal too; one that is there already is given back. Raises ``NoSuchDevice``."""
    if goal_id not in goals():
        raise NoSuchDevice(f"There is no goal called {goal_id}.", device=goal_id)
    there = Device.objects.filter(column=Column.GOAL, profile__id=goal_id).first()
    return there or _added(goals()[goal_id], "", column=Column.GOAL)


def add_shared(device_ids: Sequence[int]) -> Device:
    """Make one file for several devices; the same several are given back. Raises ``PlanError`` for fewer than two."""
    found = list(Device.objects.filter(pk__in=device_ids, column=Column.DEVICE))
    if len(found) < 2:
        raise PlanError("One file is shared by two devices at least.", advice="Choose two or more.")
    wanted = {device.pk for device in found}
    for row in Device.objects.filter(column=Column.SHARED).prefetch_related("shares"):
        if {device.pk for device in row.shares.all()} == wanted:
            return row
    name = " + ".join(device.name for device in found)
    row = _row(name, {}, Column.SHARED)
    row.shares.set(found)
    return row


def replace_profile(device: Device, document: str) -> Device:
    """Give a device another profile, as somebody wrote it. Raises ``BadProfile``."""
    device.profile = load_profile(document).model_dump(mode="json")
    device.save(update_fields=["profile"])
    return device


def change_device(device: Device, changes: dict[str, Any]) -> Device:
    """Change name, member, wishes or free space; only what is named changes."""
    if name := str(changes.get("name", "")).strip()[:80]:
        device.name = name
    for key in ("member_id", "languages", "sound", "words", "free_bytes"):
        if key in changes:
            setattr(device, key, changes[key])
    device.save()
    return device


def remove_device(device: Device) -> None:
    """Remove it; a shared file that is left with fewer than two devices goes with it."""
    with transaction.atomic():
        device.delete()
        few = Device.objects.filter(column=Column.SHARED).annotate(count=Count("shares")).filter(count__lt=2)
        few.delete()


def mark_used(device_ids: Sequence[int]) -> None:
    """Files are being made for these: they come first from now on."""
    Device.objects.filter(pk__in=device_ids).update(used=F("used") + 1, last_used=timezone.now())


def _added(profile: DeviceProfile, name: str, column: Column = Column.DEVICE) -> Device:
    return _row(name.strip()[:80] or profile.name, profile.model_dump(mode="json"), column)


def _row(name: str, profile: dict[str, Any], column: Column) -> Device:
    last = Device.objects.aggregate(last=Max("position"))["last"] or 0
    return Device.objects.create(name=name[:80], profile=profile, position=last + 1, column=column)
