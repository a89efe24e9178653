"""Reading the household."""

from __future__ import annotations

from rheon.core.devices import DeviceProfile

from .models import Device, Household

DEFAULT_LANGUAGES = ("en",)


def languages() -> tuple[str, ...]:
    row = Household.objects.first()
    return tuple(row.languages) if row else DEFAULT_LANGUAGES


def device_profiles() -> list[tuple[Device, DeviceProfile]]:
    return [(device, device.core_profile()) for device in Device.objects.all()]
