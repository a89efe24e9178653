"""A device and the catalogue's word on its kind: a newer one is taken, seen, taken back or begun with again."""

from __future__ import annotations

from django.db import transaction

from rheon.core.devices import catalogue, renewed

from ..models import Device


def start_over(device: Device) -> Device:
    """Forget what was learned and written, and take the catalogue's profile as it is now, where there is one."""
    base = device.base_profile()
    current = catalogue().get(base.id) if base else None
    if base is None:
        return device
    fresh = (current or base).model_dump(mode="json")
    device.before, device.profile, device.base, device.news = device.profile, fresh, fresh, []
    device.save(update_fields=["before", "profile", "base", "news"])
    return device


def take_back(device: Device) -> Device:
    """Take back what the catalogue changed last."""
    if device.before:
        device.profile, device.before, device.news = device.before, None, []
        device.save(update_fields=["profile", "before", "news"])
    return device


def mark_seen(device: Device) -> Device:
    """Somebody has seen what the catalogue changed."""
    device.news = []
    device.save(update_fields=["news"])
    return device


def renew_devices() -> int:
    """Bring every device to the newest version of its kind, with what was changed here kept; returns how many."""
    count = 0
    with transaction.atomic():
        for device in Device.objects.filter(base__isnull=False):
            count += _renew(device)
    return count


def _renew(device: Device) -> bool:
    base = device.base_profile()
    theirs = catalogue().get(base.id) if base else None
    if base is None or theirs is None or theirs.version <= base.version:
        return False
    found = renewed(device.core_profile(), base, theirs)
    device.before = device.profile if found.changes else None
    device.profile = found.profile.model_dump(mode="json")
    device.base = theirs.model_dump(mode="json")
    device.news = [{"what": change.what, "text": change.text} for change in found.changes]
    device.save(update_fields=["before", "profile", "base", "news"])
    return True
