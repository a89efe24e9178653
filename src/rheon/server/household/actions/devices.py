"""Adding, changing and removing devices, what several share, and goals."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction
from django.db.models import Count, F, Max, QuerySet
from django.utils import timezone

from rheon.core.devices import DeviceProfile, answered_all, catalogue, goals, load_profile, written
from rheon.core.devices import device as catalogue_device
from rheon.core.errors import NameTaken, NoSuchDevice, PlanError

from ..models import Column, Device


def add_device(profile_id: str, name: str = "", said: Mapping[str, bool] | None = None) -> Device:
    """Add a device of the catalogue under a name, with what was answered about it. Raises ``NoSuchDevice``."""
    base = catalogue_device(profile_id)
    return _added(answered_all(base, said or {}), name, base=base if profile_id in catalogue() else None)


def add_own_device(document: str, name: str = "") -> Device:
    """Add a device from a profile's JSON document. Raises ``BadProfile`` with a clause for each bad field.

    What began as a kind of the catalogue stays one: what differs rests on whoever wrote it, the rest can be renewed.
    """
    profile = load_profile(document)
    kind = catalogue().get(profile.id)
    base = kind if kind and not kind.generic and kind.version == profile.version else None
    return _added(written(base, profile) if base else profile, name, base=base)


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
    profile = written(device.core_profile(), load_profile(document))
    device.profile = profile.model_dump(mode="json")
    device.save(update_fields=["profile"])
    return device


def change_device(device: Device, changes: dict[str, Any]) -> Device:
    """Change name, member, wishes, free space or favour; only what is named changes. Raises ``NameTaken``."""
    if name := str(changes.get("name", "")).strip()[:80]:
        if _others(device).filter(name__iexact=name).exists():
            raise NameTaken(f"Another device is called {name} already.", name=name)
        device.name = name
    for key in ("member_id", "languages", "sound", "words", "free_bytes", "favourite"):
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


def _added(
    profile: DeviceProfile, name: str, column: Column = Column.DEVICE, base: DeviceProfile | None = None
) -> Device:
    wanted = name.strip()[:80] or short_name(profile)
    row = _row(free_name(wanted) if column == Column.DEVICE else wanted, profile.model_dump(mode="json"), column)
    if base is not None:
        row.base = base.model_dump(mode="json")
        row.save(update_fields=["base"])
    return row


def short_name(profile: DeviceProfile) -> str:
    """What a device is called until somebody gives it a name: its kind without years and details."""
    return profile.name.partition(",")[0]


def free_name(wanted: str) -> str:
    """The name, or with the first number behind it that no device has, so that two of a kind are told apart."""
    taken = {name.casefold() for name in Device.objects.filter(column=Column.DEVICE).values_list("name", flat=True)}
    numbered = (wanted if number == 1 else f"{wanted[:76]} {number}" for number in range(1, len(taken) + 2))
    return next(name for name in numbered if name.casefold() not in taken)


def _others(device: Device) -> QuerySet[Device]:
    return Device.objects.filter(column=Column.DEVICE).exclude(pk=device.pk)


def _row(name: str, profile: dict[str, Any], column: Column) -> Device:
    last = Device.objects.aggregate(last=Max("position"))["last"] or 0
    return Device.objects.create(name=name[:80], profile=profile, position=last + 1, column=column)
