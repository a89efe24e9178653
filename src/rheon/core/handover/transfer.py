"""The bytes of a copy: brought onto a device, and read back from it past the system's memory."""

from __future__ import annotations

import contextlib
import fcntl
import os
import stat
import threading
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import BinaryIO, cast

from ..delivery import CopyProgress
from ..errors import CheckFailed, DeviceBusy, SourceMissing

CHUNK_BYTES = 4 << 20
SETTLED_BYTES = 32 << 20
"""Twice as much at most is written and not yet on the device, so that progress is what is really there."""


@contextlib.contextmanager
def ordinary_file(path: Path) -> Iterator[BinaryIO]:
    """A finished file, open for reading. Raises ``SourceMissing``."""
    try:
        handle = os.fdopen(os.open(path, os.O_RDONLY | os.O_CLOEXEC | os.O_NOFOLLOW | os.O_NONBLOCK), "rb", buffering=0)
    except OSError as error:
        raise SourceMissing("{name} is not where it was made any more.", name=path.name) from error
    with handle:
        if not stat.S_ISREG(os.fstat(handle.fileno()).st_mode):
            raise SourceMissing("{name} is no file that could be copied.", name=path.name)
        yield cast(BinaryIO, handle)


@contextlib.contextmanager
def opened(part: Path) -> Iterator[int]:
    """A part that nobody else writes to meanwhile. Raises ``DeviceBusy`` where somebody does."""
    handle = os.open(part, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC | os.O_NOFOLLOW, 0o644)
    try:
        _lock(handle)
        yield handle
    finally:
        os.close(handle)


def write(handle: int, source: BinaryIO, progress: CopyProgress, on_settled: Callable[[], None]) -> int:
    """Have all of it on the device; returns how much an earlier try had written. ``on_settled`` is called now and then.

    Raises ``SourceMissing``, ``Stopped``, what ``on_settled`` does, or ``OSError`` of the device.
    """
    resumed = _agreeing(handle, source, progress)
    os.ftruncate(handle, resumed)
    os.lseek(handle, resumed, os.SEEK_SET)
    source.seek(resumed)
    with _Settling(handle) as settling:
        for chunk in _chunks(source):
            _write_all(handle, chunk)
            if settling.wrote(len(chunk)):
                on_settled()
            progress.went(len(chunk))
    os.fsync(handle)
    return resumed


def _agreeing(handle: int, source: BinaryIO, progress: CopyProgress) -> int:
    """How many bytes of a part, read back from the device, are those of the source."""
    os.posix_fadvise(handle, 0, 0, os.POSIX_FADV_DONTNEED)
    agreed = progress.done_bytes = 0
    source.seek(0)
    for chunk in _chunks(source):
        try:
            there = os.pread(handle, len(chunk), agreed)
        except OSError:
            break
        if there != chunk:
            break
        agreed += len(chunk)
        progress.went(len(chunk))
    return agreed


def _lock(handle: int) -> None:
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as error:
        raise DeviceBusy("The same file is being copied there already.") from error
    except OSError:
        return  # a network that knows no locks


def _chunks(source: BinaryIO) -> Iterator[bytes]:
    """Raises ``SourceMissing``: what goes wrong here is not the device's."""
    while True:
        try:
            chunk = source.read(CHUNK_BYTES)
        except OSError as error:
            raise SourceMissing("The file can't be read where it was made any more.") from error
        if not chunk:
            return
        yield chunk


def _write_all(handle: int, chunk: bytes) -> None:
    view = memoryview(chunk)
    while view:
        view = view[os.write(handle, view) :]


class _Settling:
    """Has what was written brought onto the device beside the writing, and never lets too much of it wait."""

    def __init__(self, handle: int) -> None:
        self._handle = handle
        self._since = 0
        self._thread: threading.Thread | None = None
        self._error: OSError | None = None

    def __enter__(self) -> _Settling:
        return self

    def __exit__(self, *error: object) -> None:
        self._wait()

    def wrote(self, count: int) -> bool:
        """Whether a further stretch has been begun. Raises ``OSError`` where the one before could not be written."""
        self._since += count
        if self._since < SETTLED_BYTES:
            return False
        self._wait()
        if self._error:
            raise self._error
        self._since = 0
        self._thread = threading.Thread(target=self._settle, daemon=True, name="settling")
        self._thread.start()
        return True

    def _settle(self) -> None:
        try:
            os.fdatasync(self._handle)
        except OSError as error:
            self._error = error

    def _wait(self) -> None:
        if self._thread is not None:
            self._thread.join()


def verify(handle: int, source: BinaryIO, resumed: int, progress: CopyProgress) -> None:
    """Read back from the device what was written.

    Raises ``CheckFailed`` where it is not what is in the source, else as ``write`` does.
    """
    progress.done_bytes = progress.total_bytes + resumed
    source.seek(resumed)
    os.posix_fadvise(handle, 0, 0, os.POSIX_FADV_DONTNEED)
    os.posix_fadvise(handle, 0, 0, os.POSIX_FADV_SEQUENTIAL)
    os.lseek(handle, resumed, os.SEEK_SET)
    with os.fdopen(handle, "rb", closefd=False) as there:
        if not _same_from(source, there, progress) or there.read(1):
            raise CheckFailed(
                "What was read back from the device is not what was written.",
                advice="Nothing was kept. The device may be wearing out: try another one.",
            )


def is_same(source: BinaryIO, other: Path, progress: CopyProgress) -> bool:
    """Whether a file is what would be copied, byte for byte; that counts as all of it."""
    progress.done_bytes = progress.total_bytes
    source.seek(0)
    with other.open("rb") as there:
        os.posix_fadvise(there.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
        return _same_from(source, there, progress)


def _same_from(source: BinaryIO, there: BinaryIO, progress: CopyProgress) -> bool:
    for chunk in _chunks(source):
        if there.read(len(chunk)) != chunk:
            return False
        progress.went(len(chunk))
    return True
