"""Adding, changing and removing devices."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db.models import F, Max, QuerySet
from django.utils import timezone

from rheon.core.devices import DeviceProfile, answered_all, catalogue, load_profile, written
from rheon.core.devices import device as catalogue_device
from rheon.core.errors import NameTaken

from ..models import Device
from ..requests import DeviceChange
from .people import take_wishes


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


def replace_profile(device: Device, document: str) -> Device:
    """Give a device another profile, as somebody wrote it. Raises ``BadProfile``."""
    profile = written(device.core_profile(), load_profile(document))
    device.profile = profile.model_dump(mode="json")
    device.save(update_fields=["profile"])
    return device


def change_device(device: Device, change: DeviceChange) -> Device:
    """Change name, member, wishes, free space or favour; only what is named changes. Raises ``NameTaken``."""
    if name := change.name:
        if _others(device).filter(name__iexact=name).exists():
            raise NameTaken("Another device is called {name} already.", name=name)
        device.name = name
    for key in ("member_id", "free_bytes", "favourite"):
        if key in change.model_fields_set:
            setattr(device, key, getattr(change, key))
    take_wishes(device, change)
    device.save()
    return device


def remove_device(device: Device) -> None:
    device.delete()


def note_free(device_ids: Sequence[int], free_bytes: int) -> None:
    """What is free there was seen: the Bench says which files are too large."""
    Device.objects.filter(pk__in=device_ids).exclude(free_bytes=free_bytes).update(free_bytes=free_bytes)


def mark_used(device_ids: Sequence[int]) -> None:
    """Files are being made for these: they come first from now on."""
    Device.objects.filter(pk__in=device_ids).update(used=F("used") + 1, last_used=timezone.now())


def _added(profile: DeviceProfile, name: str, base: DeviceProfile | None = None) -> Device:
    last = Device.objects.aggregate(last=Max("position"))["last"] or 0
    return Device.objects.create(
        name=free_name(name.strip()[:80] or short_name(profile)),
        profile=profile.model_dump(mode="json"),
        base=base.model_dump(mode="json") if base else None,
        position=last + 1,
    )


def short_name(profile: DeviceProfile) -> str:
    """What a device is called until somebody gives it a name: its kind without years and details."""
    return profile.name.partition(",")[0]


def free_name(wanted: str) -> str:
    """The name, or with the first number behind it that no device has, so that two of a kind are told apart."""
    taken = {name.casefold() for name in Device.objects.values_list("name", flat=True)}
    numbered = (wanted if number == 1 else f"{wanted[:76]} {number}" for number in range(1, len(taken) + 2))
    return next(name for name in numbered if name.casefold() not in taken)


def _others(device: Device) -> QuerySet[Device]:
    return Device.objects.exclude(pk=device.pk)
