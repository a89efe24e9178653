"""What a folder lies on: free space, the kind of file system, and whether files may be put there."""

from __future__ import annotations

import os
import re
from dataclasses import dataclass
from pathlib import Path

MOUNTS = Path("/proc/self/mountinfo")
LARGEST_FILE = {"vfat": 2**32 - 1, "fuse.fusefat": 2**32 - 1, "msdos": 2**31 - 1}
"""The largest file in bytes that a file system takes, where that matters for films."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """``exists`` and ``writable`` are about the folder, or the one that it would be made in."""

    free_bytes: int
    total_bytes: int
    file_system: str
    largest_file_bytes: int | None
    exists: bool
    writable: bool


def place_of(folder: Path) -> Place | None:
    """What is known of a folder, or of where it would be made; ``None`` where nothing is there to be asked."""
    there = folder
    while not os.path.isdir(there):  # noqa: PTH112 - Path.is_dir raises for over-long names
        if there == there.parent:
            return None
        there = there.parent
    try:
        said = os.statvfs(there)
    except OSError:
        return None
    kind = file_system_of(there)
    return Place(
        free_bytes=said.f_bavail * said.f_frsize,
        total_bytes=said.f_blocks * said.f_frsize,
        file_system=kind,
        largest_file_bytes=LARGEST_FILE.get(kind),
        exists=there == folder,
        writable=os.access(there, os.W_OK | os.X_OK) and not said.f_flag & os.ST_RDONLY,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Mount:
    """A mount point, the kind of its file system, what is mounted there, and the device's number as ``8:17``."""

    folder: Path
    file_system: str
    source: str
    number: str


def mounts() -> tuple[Mount, ...]:
    """Every mount (proc_pid_mountinfo(5))."""
    try:
        lines = MOUNTS.read_text(encoding="utf-8", errors="surrogateescape").splitlines()
    except OSError:
        return ()
    found = []
    for line in lines:
        before, _, after = line.partition(" - ")
        at, (kind, source, *_) = before.split(" "), [*after.split(" "), "", ""]
        if len(at) > 4 and kind:
            found.append(Mount(folder=Path(_plain(at[4])), file_system=kind, source=_plain(source), number=at[2]))
    return tuple(found)


def _plain(escaped: str) -> str:
    return re.sub(r"\\(\d{3})", lambda code: chr(int(code[1], 8)), escaped)


def file_system_of(folder: Path) -> str:
    """The kind of file system as the kernel names it, such as ``ext4`` or ``vfat``; empty where it isn't known."""
    within = [(len(one.folder.parts), one.file_system) for one in mounts() if folder.is_relative_to(one.folder)]
    return max(within, key=lambda found: found[0])[1] if within else ""
