"""Volumes: what is mounted that files can be handed over to, behind one interface.

Sources: proc_pid_mountinfo(5); udev's database (``/run/udev/data``) for what a device calls itself; sysfs for whether
it can be taken out.
"""

from __future__ import annotations

import importlib
import os
import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path
from typing import Protocol, cast, runtime_checkable

from ..engine import Command, run
from ..errors import EjectRefused, EngineError, TargetError
from ..system import LARGEST_FILE, Mount, mounts, place_of, within_patience

MOUNTED = "mounted"
UNDER = tuple(map(Path, ("/media", "/run/media", "/mnt")))
NETWORKS = frozenset({"nfs", "nfs4", "cifs", "smb3", "smbfs", "fuse.sshfs", "fuse.davfs", "fuse.davfs2", "9p"})
FAMILIES = {
    "vfat": "fat32",
    "fuse.fusefat": "fat32",
    "msdos": "fat32",
    "exfat": "exfat",
    "fuseblk": "ntfs",
    "ntfs": "ntfs",
    "ntfs3": "ntfs",
}
"""By whose rules a file system names files; ``fuseblk`` is exFAT or NTFS, of which NTFS forbids more."""
UDEV, SYSFS = Path("/run/udev/data"), Path("/sys/dev/block")
TAKEN_OUT = ("/usb", "/mmc_host/", "/firewire")
EJECT_PATIENCE_S = 120.0


class VolumeKind(StrEnum):
    """A stick, card, disk or player that can be taken out, a folder of another machine, or one of this machine."""

    REMOVABLE = "removable"
    NETWORK = "network"
    FOLDER = "folder"


@dataclass(frozen=True, slots=True, kw_only=True)
class Volume:
    """A file system that is there. ``id`` is the same whenever it is plugged in again, wherever it is mounted then.

    ``file_system`` is as the kernel names it; files take whole units of ``unit_bytes``; ``node`` is the device's path.
    Some file systems do not say how large they are and what is free: both are ``None`` then.
    """

    id: str
    label: str
    kind: VolumeKind
    path: Path
    file_system: str
    total_bytes: int | None
    free_bytes: int | None
    unit_bytes: int
    largest_file_bytes: int | None
    writable: bool
    node: str = ""

    @property
    def names_like(self) -> str:
        """The family of file systems by whose rules it names files, as ``safe_stem`` knows it."""
        return FAMILIES.get(self.file_system, "posix")


class Volumes(Protocol):
    """Where volumes are found."""

    def volumes(self) -> tuple[Volume, ...]: ...

    def eject(self, volume: Volume) -> None:
        """Have everything written and unmount it. Raises ``EjectRefused``."""


@runtime_checkable
class Drawer(Volumes, Protocol):
    """Stand-ins for volumes, which can be plugged in from the page."""

    def unplugged(self) -> tuple[str, ...]:
        """What is not plugged in, by label."""

    def plug_in(self, label: str) -> None:
        """Raises ``TargetError`` where there is no such thing."""

    def pull_out(self, label: str) -> None:
        """Without a word before it, as people do. Raises ``TargetError`` where there is no such thing."""


@dataclass(frozen=True, slots=True, kw_only=True)
class MountedVolumes:
    """What this machine has mounted: devices that can be taken out, what lies ``under`` the usual folders, networks."""

    under: tuple[Path, ...] = UNDER

    def volumes(self) -> tuple[Volume, ...]:
        found: dict[str, Volume] = {}
        for mount in sorted(mounts(), key=lambda one: len(one.folder.parts)):
            kind = self._kind(mount)
            volume = _volume(mount, kind) if kind else None
            if volume is not None:
                found.setdefault(volume.id, volume)
        return tuple(found.values())

    def eject(self, volume: Volume) -> None:
        for argv in _ways_out(volume):
            try:
                run(Command(argv=argv, timeout_s=EJECT_PATIENCE_S))
            except EngineError:
                continue
            return
        raise EjectRefused("{label} could not be ejected: something is still using it.", label=volume.label)

    def _kind(self, mount: Mount) -> VolumeKind | None:
        """``None`` for what belongs to this machine."""
        if mount.file_system in NETWORKS:
            return VolumeKind.NETWORK
        if not mount.source.startswith("/dev/") or mount.folder == Path("/"):
            return None
        below = any(mount.folder != outer and mount.folder.is_relative_to(outer) for outer in self.under)
        return VolumeKind.REMOVABLE if below or _is_taken_out(mount.number) else None


def open_volumes(where: str) -> Volumes:
    """What is mounted here, or a stand-in as ``module:place``, whose module has ``open_volumes(place)``.

    Raises ``TargetError`` where there is no such stand-in.
    """
    if where == MOUNTED:
        return MountedVolumes()
    module, _, place = where.partition(":")
    try:
        made = importlib.import_module(module).open_volumes(place)
    except (ImportError, AttributeError, ValueError) as error:
        raise TargetError(
            "There are no volumes called {where}.", where=where, advice="Correct “volumes” in the settings."
        ) from error
    return cast(Volumes, made)


def folder_as_volume(folder: Path) -> Volume | None:
    """A folder of this machine, as a place for files; ``None`` where there is none."""
    place = place_of(folder)
    if place is None or not place.exists:
        return None
    return Volume(
        id=str(folder),
        label=folder.name or str(folder),
        kind=VolumeKind.FOLDER,
        path=folder,
        file_system=place.file_system,
        total_bytes=place.total_bytes or None,
        free_bytes=place.free_bytes if place.total_bytes else None,
        unit_bytes=1,
        largest_file_bytes=place.largest_file_bytes,
        writable=place.writable,
    )


def _volume(mount: Mount, kind: VolumeKind) -> Volume | None:
    """``None`` where it does not answer."""
    said = within_patience(str(mount.folder), lambda: _statvfs(mount.folder))
    if said is None:
        return None
    known = dict(_udev(mount.number))
    return Volume(
        id=known.get("ID_FS_UUID") or _linked(mount.source, "by-uuid") or f"{mount.source} at {mount.folder}",
        label=known.get("ID_FS_LABEL") or _linked(mount.source, "by-label") or mount.folder.name,
        kind=kind,
        path=mount.folder,
        file_system=mount.file_system,
        total_bytes=said.f_blocks * said.f_frsize or None,
        free_bytes=said.f_bavail * said.f_frsize if said.f_blocks else None,
        unit_bytes=said.f_frsize,
        largest_file_bytes=LARGEST_FILE.get(mount.file_system),
        writable=os.access(mount.folder, os.W_OK | os.X_OK) and not said.f_flag & os.ST_RDONLY,
        node=mount.source if mount.source.startswith("/dev/") else "",
    )


def _statvfs(folder: Path) -> os.statvfs_result | None:
    try:
        return os.statvfs(folder)
    except OSError:
        return None


def _udev(number: str) -> Iterator[tuple[str, str]]:
    try:
        text = (UDEV / f"b{number}").read_text(encoding="utf-8", errors="replace")
    except OSError:
        return
    for line in text.splitlines():
        kind, _, rest = line.partition(":")
        key, sign, value = rest.partition("=")
        if kind == "E" and sign:
            yield key, value


def _linked(source: str, by: str) -> str:
    """The name of a device among the links to all devices; empty where it has none."""
    if not source.startswith("/dev/"):
        return ""
    try:
        links = list(Path("/dev/disk", by).iterdir())
    except OSError:
        return ""
    return next((one.name for one in links if os.path.realpath(one) == os.path.realpath(source)), "")


def _is_taken_out(number: str) -> bool:
    """Whether a partition's disk, or the bus that it hangs on, is made for that (sysfs-block)."""
    device = Path(os.path.realpath(SYSFS / number))
    if any(bus in f"{device}/" for bus in TAKEN_OUT):
        return True
    for folder in (device, device.parent):
        try:
            return (folder / "removable").read_text(encoding="ascii").strip() == "1"
        except OSError:
            continue
    return False


def _ways_out(volume: Volume) -> Iterator[list[str]]:
    """The desktop's own, which needs no rights, then unmounting it as what it is."""
    place = str(volume.path)
    if volume.node and shutil.which("udisksctl"):
        yield ["udisksctl", "unmount", "--no-user-interaction", "-b", volume.node]
    if volume.file_system.startswith("fuse") and shutil.which("fusermount"):
        yield ["fusermount", "-u", place]
    yield ["umount", place]
