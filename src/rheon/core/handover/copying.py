"""A copy on a device: written, read back past the system's memory, and only then under its name.

Whatever ends it in the middle, a file under a good name is whole. What was written stays as a part where the device
went away or the process died, and the next try goes on behind what agrees with the source.
"""

from __future__ import annotations

import contextlib
import errno
import os
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path
from typing import BinaryIO

from ..delivery import CopyProgress, beside, put_in_place
from ..encoding import Hooks, part_path, parts_in
from ..errors import DeviceBusy, DeviceGone, FileTooLarge, TargetError, TargetFull
from ..media import mark_of
from ..naming.names import safe_stem
from ..wording import sentence
from .fitting import Room, kept_free, what_fits
from .listing import Listing
from .transfer import is_same, opened, ordinary_file, verify, write
from .volumes import Volume

GONE = frozenset({errno.EIO, errno.ENODEV, errno.ENXIO, errno.ENOENT, errno.ESTALE, errno.ENOTCONN, errno.EROFS})
"""What a file system says whose device was pulled out."""
Look = Callable[[], Volume | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class CopyOrder:
    """A file, the folder below a volume that it goes into, and its name there, with folders before it if it has any.

    ``look`` finds the volume as it is at the moment; ``None`` where it is not there. ``replaces``: another file of the
    name gives way, but not before the copy was verified.
    """

    source: Path
    folder: str
    name: str
    look: Look
    replaces: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Copied:
    """Where the copy is. ``was_there``: it had been before; ``resumed_bytes`` an earlier try had written."""

    path: Path
    size_bytes: int
    was_there: bool = False
    resumed_bytes: int = 0
    writing_s: float = 0.0
    verifying_s: float = 0.0


def copy_file(order: CopyOrder, hooks: Hooks | None = None) -> Copied:
    """Copy, verify, and only then name it; a copy that is there already is recognised by its content.

    Raises ``DeviceGone``, ``TargetFull``, ``FileTooLarge``, ``DeviceBusy``, ``TargetError``, ``SourceMissing``,
    ``CheckFailed`` or ``Stopped``.
    """
    volume = _present(order)
    hooks = hooks or Hooks()
    progress = CopyProgress(hooks=hooks, began_s=hooks.clock.worked_s)
    with _told(order, volume), ordinary_file(order.source) as source:
        return _copied(order, volume, source, progress)


def hand_over(order: CopyOrder, hooks: Hooks | None = None) -> Copied:
    """A file with what lies beside it under its name. Raises as ``copy_file`` does."""
    copied = copy_file(order, hooks)
    stem = order.name.rpartition("/")[0]
    for side in beside(order.source):
        name = f"{copied.path.stem}{side.name.removeprefix(order.source.stem)}"
        copy_file(replace(order, source=side, name=f"{stem}/{name}" if stem else name))
    return copied


def clear_parts(folder: Path) -> int:
    """Remove what copies left that nobody goes on with, and that nobody writes to; returns how many."""
    cleared = 0
    for part in parts_in(folder):
        with contextlib.suppress(OSError, DeviceBusy), opened(part):
            part.unlink()
            cleared += 1
    return cleared


def folder_on(volume: Volume, folder: str) -> str:
    """A folder below a volume as it can be called there; never above it."""
    return "/".join(safe_stem(one, volume.names_like) for one in folder.split("/") if one.strip())


def name_on(volume: Volume, name: str) -> str:
    """A file's name as the volume can have it, folder by folder."""
    *folders, own = name.split("/")
    stem, dot, extension = own.rpartition(".")
    safe = [safe_stem(one, volume.names_like) for one in folders]
    return "/".join([*safe, f"{safe_stem(stem, volume.names_like)}.{extension}" if dot else own])


def _present(order: CopyOrder) -> Volume:
    volume = order.look()
    if volume is None:
        raise DeviceGone("The device is not plugged in.")
    if not volume.writable:
        raise TargetError("{label} may not be written to.", label=volume.label, advice="Look for a switch on it.")
    return volume


@contextlib.contextmanager
def _told(order: CopyOrder, volume: Volume) -> Iterator[None]:
    """What the system says of a copy, as what it means."""
    try:
        yield
    except OSError as error:
        if order.look() is None:
            raise DeviceGone("{label} was taken out.", label=volume.label) from error
        if error.errno in (errno.ENOSPC, errno.EDQUOT):
            raise TargetFull("{label} became full.", label=volume.label) from error
        if error.errno == errno.EFBIG:
            raise FileTooLarge("{name} is larger than {label} takes.", name=order.name, label=volume.label) from error
        if error.errno in GONE:
            raise DeviceGone("{label} does not answer any more.", label=volume.label) from error
        raise TargetError("{label} can't be written: {why}.", label=volume.label, why=error.strerror) from error


def _copied(order: CopyOrder, volume: Volume, source: BinaryIO, progress: CopyProgress) -> Copied:
    said = os.fstat(source.fileno())
    progress.total_bytes = said.st_size
    folder = volume.path / folder_on(volume, order.folder)
    name = name_on(volume, order.name)
    there = _same_there(source, folder, name, progress)
    if there is not None:
        return Copied(path=there, size_bytes=said.st_size, was_there=True)
    part = part_path(folder, mark_of(name, said.st_size, said.st_mtime_ns))
    _check_room(order, volume, part, said.st_size)
    folder.mkdir(parents=True, exist_ok=True)
    keeps = False
    try:
        began_s = time.monotonic()
        with _told(order, volume), opened(part) as handle:
            resumed = write(handle, source, progress, lambda: _still(order, volume))
            written_s = time.monotonic()
            verify(handle, source, resumed, progress)
            verified_s = time.monotonic()
            _still(order, volume)
            named = _replaced(part, folder, name) if order.replaces else None
            named = named or put_in_place(part, name)
        _settle_folder(named.parent)
    except (DeviceGone, DeviceBusy):
        keeps = True
        raise
    finally:
        if not keeps:
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)
    return Copied(
        path=named,
        size_bytes=said.st_size,
        resumed_bytes=resumed,
        writing_s=written_s - began_s,
        verifying_s=verified_s - written_s,
    )


def _check_room(order: CopyOrder, volume: Volume, part: Path, size_bytes: int) -> None:
    """Raises ``FileTooLarge`` or ``TargetFull``. What an earlier try has written needs no room any more."""
    there = part.stat().st_size if part.exists() else 0
    room = Room(
        free_bytes=None if volume.free_bytes is None else volume.free_bytes + there,
        kept_free_bytes=kept_free(volume.total_bytes),
        unit_bytes=volume.unit_bytes,
        largest_file_bytes=volume.largest_file_bytes,
    )
    (fit,) = what_fits([(0, size_bytes)], room)
    if fit.why_not is None:
        return
    error = FileTooLarge if fit.why_not.code == "over_file_limit" else TargetFull
    raise error(
        "{name} does not fit on {label}: {why}.", name=order.name, label=volume.label, why=sentence(fit.why_not)
    )


def _still(order: CopyOrder, volume: Volume) -> None:
    """Raises ``DeviceGone`` where it was taken out, or another lies at its place."""
    now = order.look()
    if now is None or now.path != volume.path:
        raise DeviceGone("{label} was taken out.", label=volume.label)


def _same_there(source: BinaryIO, folder: Path, name: str, progress: CopyProgress) -> Path | None:
    """A file of the name whose content is the same."""
    for found in Listing().under_name(folder, name):
        if found.size_bytes == progress.total_bytes and is_same(source, found.path, progress):
            return found.path
    return None


def _replaced(part: Path, folder: Path, name: str) -> Path | None:
    """The copy in the place of the file that had its name; ``None`` where there is none."""
    old = next(Listing().under_name(folder, name), None)
    if old is None:
        return None
    part.replace(old.path)
    return old.path


def _settle_folder(folder: Path) -> None:
    """The name on the device too; not every file system can be asked for that."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        with contextlib.suppress(OSError):
            os.fsync(handle)
    finally:
        os.close(handle)
