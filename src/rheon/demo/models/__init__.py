"""The invented models of the scenario: profiles of single devices, as people write and share them."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from rheon.core.devices import DeviceProfile, load_profile
from rheon.core.devices import device as catalogue_device

FOLDER = Path(__file__).parent


@lru_cache(maxsize=1)
def models() -> dict[str, DeviceProfile]:
    """Every model by its id."""
    found = (load_profile(path.read_text(encoding="utf-8")) for path in sorted(FOLDER.glob("*.json")))
    return {profile.id: profile for profile in found}


def device(name: str) -> DeviceProfile:
    """A model, or a profile of the catalogue. Raises ``NoSuchDevice``."""
    return models().get(name) or catalogue_device(name)


def model_file(name: str) -> Path:
    """Where a model's document lies."""
    return FOLDER / f"{name}.json"
