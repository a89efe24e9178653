"""Adding, renaming and removing devices; what the household speaks."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Max

from rheon.core.devices import DeviceProfile, load_profile
from rheon.core.devices import device as catalogue_device
from rheon.core.media import to_bcp47

from ..models import Device, Household


def add_device(profile_id: str, name: str = "") -> Device:
    """Add a device of the catalogue under a name. Raises ``NoSuchDevice``."""
    return _added(catalogue_device(profile_id), name)


def add_own_device(document: str, name: str = "") -> Device:
    """Add a device from a profile's JSON document. Raises ``BadProfile`` with a clause for each bad field."""
    return _added(load_profile(document), name)


def _added(profile: DeviceProfile, name: str) -> Device:
    last = Device.objects.aggregate(last=Max("position"))["last"] or 0
    return Device.objects.create(
        name=name.strip()[:80] or profile.name, profile=profile.model_dump(mode="json"), position=last + 1
    )


def rename_device(device: Device, name: str) -> Device:
    device.name = name.strip()[:80] or device.name
    device.save(update_fields=["name"])
    return device


def remove_device(device: Device) -> None:
    device.delete()


def set_languages(tags: Sequence[str]) -> Household:
    """Keep the languages that are ones, in their order."""
    known = [tag for tag in dict.fromkeys(map(to_bcp47, tags)) if tag != "und"]
    row, _ = Household.objects.update_or_create(pk=1, defaults={"languages": known})
    return row
