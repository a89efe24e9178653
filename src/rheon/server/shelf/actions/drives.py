"""Putting discs into drives, taking them out, and reading what lies in them."""

from __future__ import annotations

from rheon.core.errors import SourceError
from rheon.core.sources.images.drive import Changer, DriveState

from ..drives import drive_at
from ..models import Source
from .sources import add_source


def insert_disc(number: int, disc: str) -> None:
    """Have a drive take a disc from its magazine. Raises ``SourceError``."""
    drive = drive_at(number)
    if not isinstance(drive, Changer):
        raise SourceError("A disc is put into this drive by hand.", advice="")
    drive.insert(disc)


def eject_disc(number: int) -> None:
    """Open a drive's tray. What was read from its disc stays on the shelf. Raises ``SourceError``."""
    drive_at(number).eject()


def read_disc(number: int) -> Source:
    """Take the disc in a drive onto the shelf. Raises ``SourceError`` where there is none that can be read."""
    status = drive_at(number).status()
    if status.state is not DriveState.READY or status.path is None:
        raise SourceError("There is no disc to read in the drive.", advice="Put one in and wait until it is ready.")
    return add_source(status.path, drive=number)
