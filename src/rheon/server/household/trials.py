"""Test files that settle a doubt, made when they are first wanted and kept."""

from __future__ import annotations

import hashlib
from pathlib import Path

from rheon.core.checking import read_facts
from rheon.core.devices import Clip, MediaFacts, trial, trial_name
from rheon.core.errors import NoTestFile

from .clips import kept_clip
from .models import Device


def trial_file(device: Device, line: str) -> tuple[Path, str]:
    """The test file for a doubtful line, and its name. Raises ``NoTestFile`` and ``EngineError``."""
    profile = device.core_profile()
    clip = trial(profile, line)
    if clip is None:
        raise NoTestFile("There is no doubt here that a file could settle.", line=line)
    return kept_clip(clip, _mark(clip), watched=True), trial_name(profile, line)


def trial_facts(device: Device, line: str) -> MediaFacts:
    """What the device met in the test file. Raises ``NoTestFile`` and ``EngineError``."""
    path, name = trial_file(device, line)
    return read_facts(path, name)


def _mark(clip: Clip) -> str:
    return "trial-" + hashlib.sha256(repr(clip).encode()).hexdigest()[:16]
