"""Finding the device that an argument names."""

from __future__ import annotations

from pathlib import Path

from rheon.core.devices import DeviceProfile, device, load_profile
from rheon.core.errors import NoSuchDevice


def find_device(name: str) -> DeviceProfile:
    """A device of the catalogue, or one from a profile file. Raises ``NoSuchDevice`` or ``BadProfile``."""
    path = Path(name)
    if path.suffix == ".json":
        if not path.is_file():
            raise NoSuchDevice("There is no profile file {name}.", name=name)
        return load_profile(path.read_text(encoding="utf-8"))
    return device(name)
