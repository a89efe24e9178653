"""Stand-ins for sticks, cards and players: folders that say how large they are, and are plugged in or not."""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path

from rheon.core.errors import TargetError
from rheon.core.handover import Volume, VolumeKind

UNIT_BYTES = 4_096
STICKS = (
    ("TERN", "fat32", 2_400_000),
    ("KITTIWAKE", "exfat", 10_000_000),
    ("SANDERLING", "fat32", 6_000_000),
)
"""Label, file system and size in bytes: as small as the demo's films, so that one can be seen to be full."""
LARGEST_FILE = {"fat32": 2**32 - 1}
KERNEL_NAMES = {"fat32": "vfat", "exfat": "exfat"}


@dataclass(frozen=True, slots=True, kw_only=True)
class StickDrawer:
    """A folder for each stick; a file beside them holds the labels of those that are plugged in."""

    folder: Path

    def volumes(self) -> tuple[Volume, ...]:
        plugged = self._plugged()
        return tuple(self._volume(*stick) for stick in STICKS if stick[0] in plugged)

    def unplugged(self) -> tuple[str, ...]:
        plugged = self._plugged()
        return tuple(label for label, _, _ in STICKS if label not in plugged)

    def plug_in(self, label: str) -> None:
        self._check(label)
        (self.folder / label).mkdir(parents=True, exist_ok=True)
        self._keep({*self._plugged(), label})

    def pull_out(self, label: str) -> None:
        self._check(label)
        self._keep(self._plugged() - {label})

    def eject(self, volume: Volume) -> None:
        self.pull_out(volume.label)

    def _volume(self, label: str, file_system: str, size_bytes: int) -> Volume:
        root = self.folder / label
        sizes = [path.stat().st_size for path in root.rglob("*") if path.is_file()]
        used = sum(-(-size // UNIT_BYTES) * UNIT_BYTES for size in sizes)
        return Volume(
            id=f"stand-in-{label.lower()}",
            label=label,
            kind=VolumeKind.REMOVABLE,
            path=root,
            file_system=KERNEL_NAMES[file_system],
            total_bytes=size_bytes,
            free_bytes=max(0, size_bytes - used),
            unit_bytes=UNIT_BYTES,
            largest_file_bytes=LARGEST_FILE.get(file_system),
            writable=True,
        )

    def _check(self, label: str) -> None:
        if label not in {known for known, _, _ in STICKS}:
            raise TargetError("There is no stick called {label}.", label=label, advice="Choose one of those there are.")

    def _plugged(self) -> set[str]:
        try:
            return set(json.loads(self._list.read_text(encoding="utf-8")))
        except (OSError, ValueError, TypeError):
            return set()

    def _keep(self, plugged: set[str]) -> None:
        self.folder.mkdir(parents=True, exist_ok=True)
        self._list.write_text(json.dumps(sorted(plugged)), encoding="utf-8")

    @property
    def _list(self) -> Path:
        return self.folder / "plugged.json"


def open_volumes(place: str) -> StickDrawer:
    """The stand-ins whose folders lie in ``place``."""
    return StickDrawer(folder=Path(place))
