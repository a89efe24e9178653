"""The shipped catalogue, and loading a profile from a document."""

from __future__ import annotations

import json
from functools import lru_cache
from importlib import resources
from typing import Any

from pydantic import ValidationError

from ..errors import BadProfile, NoSuchDevice
from .kinds import families
from .profile import LISTS, DeviceProfile, Ground, Sure

GOAL_ORDER = (
    "most-compatible", "for-the-web", "for-the-open-web", "sound-as-mp3", "sound-as-aac", "sound-as-flac",
    "sound-as-opus", "faithful-copy",
)  # fmt: skip


@lru_cache(maxsize=1)
def catalogue() -> dict[str, DeviceProfile]:
    """Every shipped profile by id: the kinds of devices, family by family, then the points of standards."""
    kinds = {one.profile.id: one.profile for family in families().values() for one in family.generations}
    return {**kinds, **standards()}


@lru_cache(maxsize=1)
def standards() -> dict[str, DeviceProfile]:
    """Profiles that stand for a conformance point of a standard and for no kind of device."""
    return {name: _resting_on_its_standard(profile) for name, profile in _shipped("standards").items()}


@lru_cache(maxsize=1)
def goals() -> dict[str, DeviceProfile]:
    """What a file can be for when it is for no one device: profiles of their own, by id."""
    found = _shipped("goals")
    return {name: found[name] for name in sorted(found, key=GOAL_ORDER.index)}


def device(profile_id: str) -> DeviceProfile:
    """One profile of the catalogue, or a goal. Raises ``NoSuchDevice``."""
    found = catalogue().get(profile_id) or goals().get(profile_id)
    if found is None:
        raise NoSuchDevice("There is no device called {device}.", device=profile_id)
    return found


def _shipped(name: str) -> dict[str, DeviceProfile]:
    folder = resources.files(__package__) / name
    found = (load_profile(entry.read_text(encoding="utf-8")) for entry in sorted(folder.iterdir(), key=str))
    return {profile.id: profile for profile in found}


def _resting_on_its_standard(profile: DeviceProfile) -> DeviceProfile:
    """Every line is the standard's own, so that each is known."""
    ground = Ground(sure=Sure.KNOWN, rests_on="standard", point=profile.name)
    lists = {
        topic: tuple(entry.model_copy(update={"ground": ground}) for entry in getattr(profile, topic))
        for topic in LISTS
    }
    parts = {"limits": profile.limits.model_copy(update={"ground": ground})}
    if profile.screen:
        parts["screen"] = profile.screen.model_copy(update={"ground": ground})  # type: ignore[assignment]
    return profile.model_copy(update={**lists, **parts})


def load_profile(text: str) -> DeviceProfile:
    """A profile from its JSON document. Raises ``BadProfile`` with one clause for each bad field."""
    try:
        return DeviceProfile.model_validate_json(text)
    except ValidationError as error:
        clauses = [f"{'.'.join(map(str, fault['loc'])) or 'document'}: {fault['msg']}" for fault in error.errors()]
        raise BadProfile(
            "This is not a device profile: {clauses}.", clauses="; ".join(clauses), fields=clauses
        ) from error


def profile_schema() -> dict[str, Any]:
    """The JSON Schema of a profile, as published in ``docs/device-profile.schema.json``."""
    schema: dict[str, Any] = json.loads(json.dumps(DeviceProfile.model_json_schema()))
    return schema
