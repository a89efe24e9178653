"""What becomes known of a device: answers, what its browser played, files that played or did not."""

from __future__ import annotations

from typing import Any

from django.utils import timezone

from rheon.core.devices import (
    DeviceProfile,
    MediaFacts,
    Trouble,
    answered,
    asked_besides,
    failed,
    played,
    trial_failed,
)

from ..models import Device
from ..trials import trial_facts


def answer(device: Device, question: str, *, yes: bool) -> Device:
    """Take an answer to one of ``QUESTIONS`` about the device."""
    return _keep(device, answered(device.core_profile(), question, yes=yes))


def tell_played(device: Device, facts: MediaFacts, trouble: Trouble | None) -> Device:
    """Take that a file played on the device, or what went wrong."""
    when = timezone.localdate().isoformat()
    profile = device.core_profile()
    learned = played(profile, facts, when) if trouble is None else failed(profile, facts, trouble, when)
    return _keep(device, learned)


def tell_trial(device: Device, line: str, *, works: bool) -> Device:
    """Take how the test file for a doubtful line did. Raises ``NoTestFile`` and ``EngineError``."""
    facts = trial_facts(device, line)
    if works:
        return tell_played(device, facts, None)
    when = timezone.localdate().isoformat()
    return _keep(device, trial_failed(device.core_profile(), line, when))


def take_asked(device: Device, asked: DeviceProfile) -> Device:
    """Take what the device's own browser played into its profile."""
    return _keep(device, asked_besides(device.core_profile(), asked))


def _keep(device: Device, profile: DeviceProfile) -> Device:
    document: dict[str, Any] = profile.model_dump(mode="json")
    device.profile = document
    device.save(update_fields=["profile"])
    return device
