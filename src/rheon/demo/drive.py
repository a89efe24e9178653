"""A stand-in for a disc drive with a magazine of demo discs, which needs time to spin up."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass
from pathlib import Path

from rheon.core.errors import SourceError
from rheon.core.sources.images.drive import DriveState, DriveStatus

SPIN_UP_S = 2.5
SPEED_BYTES_S = 11_080_000  # eight times the speed at which a DVD plays
BLANK = "A blank disc"


@dataclass(frozen=True, slots=True, kw_only=True)
class TrayDrive:
    """The drive's tray is a file that says which disc lies in it since when; the discs lie in ``shelf``."""

    name: str
    tray: Path
    shelf: Path

    def status(self) -> DriveStatus:
        disc, since = self._lying()
        if disc is None:
            return DriveStatus(state=DriveState.EMPTY, speed_bytes_s=SPEED_BYTES_S)
        if time.time() - since < SPIN_UP_S:
            return DriveStatus(state=DriveState.SPINNING_UP, speed_bytes_s=SPEED_BYTES_S)
        path = self.shelf / disc
        if disc == BLANK or not path.exists():
            return DriveStatus(state=DriveState.UNREADABLE, speed_bytes_s=SPEED_BYTES_S)
        return DriveStatus(
            state=DriveState.READY, path=str(path.resolve()), label=path.stem, speed_bytes_s=SPEED_BYTES_S
        )

    def discs(self) -> tuple[str, ...]:
        if not self.shelf.is_dir():
            return (BLANK,)
        found = [path for path in sorted(self.shelf.iterdir()) if not path.name.startswith(".")]
        lying = [path.name for path in found if path.suffix == ".iso" or _is_disc(path)]
        return (*lying, BLANK)

    def insert(self, disc: str) -> None:
        """Raises ``SourceError`` where there is no such disc."""
        if disc not in self.discs():
            raise SourceError("There is no disc called {disc}.", disc=disc, advice="Choose one of those there are.")
        self.tray.parent.mkdir(parents=True, exist_ok=True)
        self.tray.write_text(json.dumps({"disc": disc, "since": time.time()}))

    def eject(self) -> None:
        self.tray.unlink(missing_ok=True)

    def _lying(self) -> tuple[str | None, float]:
        try:
            said = json.loads(self.tray.read_text())
            return str(said["disc"]), float(said["since"])
        except (OSError, ValueError, KeyError, TypeError):
            return None, 0.0


def _is_disc(path: Path) -> bool:
    return path.is_dir() and any((path / name).is_dir() for name in ("VIDEO_TS", "BDMV"))


def open_drive(place: str) -> TrayDrive:
    """The stand-in described by ``tray file,folder of discs``."""
    tray, _, shelf = place.partition(",")
    return TrayDrive(name="Drive", tray=Path(tray), shelf=Path(shelf))
