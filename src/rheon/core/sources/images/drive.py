"""The disc drive: one interface, behind which a real drive's device or a stand-in may be.

Source of the calls: Linux ``include/uapi/linux/cdrom.h``.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import importlib
import os
from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol, cast, runtime_checkable

from ...errors import SourceError

DRIVE_STATUS, EJECT, CLOSE_TRAY = 0x5326, 0x5309, 0x5319
NO_DISC, TRAY_OPEN, NOT_READY, DISC_OK = 1, 2, 3, 4
NOTHING_IN_IT = frozenset({errno.ENOMEDIUM, errno.ENXIO, errno.ENODEV})


class DriveState(StrEnum):
    EMPTY = "empty"
    SPINNING_UP = "spinning_up"
    READY = "ready"
    UNREADABLE = "unreadable"
    ABSENT = "absent"


@dataclass(frozen=True, slots=True, kw_only=True)
class DriveStatus:
    """What a drive says. ``path`` is where its disc can be read, set where the state is ready.

    ``speed_bytes_s`` is how fast it reads, ``None`` where it does not say.
    """

    state: DriveState
    path: str | None = None
    label: str | None = None
    speed_bytes_s: int | None = None


class Drive(Protocol):
    """A drive into which somebody puts discs by hand."""

    @property
    def name(self) -> str: ...

    def status(self) -> DriveStatus: ...

    def eject(self) -> None:
        """Open the tray. Raises ``SourceError``."""


@runtime_checkable
class Changer(Drive, Protocol):
    """A drive that takes discs from a magazine of its own."""

    def discs(self) -> tuple[str, ...]:
        """What lies in the magazine, by name."""

    def insert(self, disc: str) -> None:
        """Take one of them. Raises ``SourceError`` where there is no such disc."""


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceDrive:
    """A real drive behind a device path such as ``/dev/sr0``; also any block device or image that holds a disc."""

    name: str

    def status(self) -> DriveStatus:
        try:
            handle = os.open(self.name, os.O_RDONLY | os.O_NONBLOCK)
        except FileNotFoundError:
            return DriveStatus(state=DriveState.ABSENT)
        except OSError as error:
            state = DriveState.EMPTY if error.errno in NOTHING_IN_IT else DriveState.UNREADABLE
            return DriveStatus(state=state)
        try:
            return self._asked(handle)
        finally:
            os.close(handle)

    def eject(self) -> None:
        """Open the tray. Raises ``SourceError``."""
        try:
            handle = os.open(self.name, os.O_RDONLY | os.O_NONBLOCK)
            try:
                fcntl.ioctl(handle, EJECT)
            finally:
                os.close(handle)
        except OSError as error:
            raise SourceError("The drive {drive} does not open.", drive=self.name, advice="Open it by hand.") from error

    def _asked(self, handle: int) -> DriveStatus:
        said = DISC_OK
        with contextlib.suppress(OSError):  # a plain block device or image knows no such call
            said = fcntl.ioctl(handle, DRIVE_STATUS, 0)
        if said in (NO_DISC, TRAY_OPEN):
            return DriveStatus(state=DriveState.EMPTY)
        if said == NOT_READY:
            return DriveStatus(state=DriveState.SPINNING_UP)
        try:
            os.lseek(handle, 16 * 2048, os.SEEK_SET)
            head = os.read(handle, 6)
        except OSError as error:
            state = DriveState.EMPTY if error.errno in NOTHING_IN_IT else DriveState.UNREADABLE
            return DriveStatus(state=state)
        if head[1:6] not in (b"CD001", b"BEA01"):
            return DriveStatus(state=DriveState.UNREADABLE)
        return DriveStatus(state=DriveState.READY, path=self.name)


def open_drive(where: str) -> Drive:
    """The drive at a device path, or a stand-in as ``module:place``, whose module has ``open_drive(place)``.

    Raises ``SourceError`` where there is no such stand-in.
    """
    module, colon, place = where.partition(":")
    if not colon or where.startswith("/"):
        return DeviceDrive(name=where)
    try:
        made = importlib.import_module(module).open_drive(place)
    except (ImportError, AttributeError) as error:
        raise SourceError(
            "There is no drive called {where}.", where=where, advice="Correct “drives” in the settings."
        ) from error
    return cast(Drive, made)
