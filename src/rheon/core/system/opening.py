"""The one way to open what somebody else made: ordinary files only, inside the fence only, and waiting for nobody.

A path is looked at without opening it (``O_PATH``), and what is opened then is what was looked at, whatever the path
means a moment later.
"""

from __future__ import annotations

import contextlib
import os
import stat
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import BinaryIO

from ..errors import NotASource, OutsideFolders

Roots = Callable[[], Iterable[Path]]
_roots: Roots | None = None


def set_fence(roots: Roots | None) -> None:
    """Say in which folders everything must lie that this process reads; ``None`` for anywhere."""
    global _roots  # noqa: PLW0603 - a process has one fence
    _roots = roots


def real_path(path: str | Path) -> Path:
    """The path with its links resolved, as far as that goes. Raises ``NotASource`` where it can be none."""
    if "\0" in str(path):
        raise NotASource("A path can't hold a zero byte.")
    return Path(os.path.realpath(path))


def is_there(path: str | Path) -> bool:
    """Whether something lies there; false for names that no file system takes and for links that loop."""
    return os.path.exists(path)  # noqa: PTH110 - Path.exists raises for over-long names


def check_inside(path: str | Path) -> int:
    """The size in bytes of an ordinary file inside the fence.

    Raises ``OutsideFolders``, ``NotASource`` where it is a pipe, a socket or the like, or ``OSError``.
    """
    with _looked_at(path) as (_, said):
        return said.st_size


def open_inside(path: str | Path, *, buffering: int = -1) -> BinaryIO:
    """An ordinary file or a block device inside the fence, open for reading. Raises as ``check_inside`` does."""
    with _looked_at(path) as (handle, _):
        opened = os.open(f"/proc/self/fd/{handle}", os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
    return os.fdopen(opened, "rb", buffering=buffering)


def read_inside(path: str | Path, most_bytes: int) -> bytes:
    """All of a small file. Raises ``NotASource`` where it is larger, else as ``check_inside`` does."""
    with open_inside(path) as handle:
        if os.fstat(handle.fileno()).st_size > most_bytes:
            raise NotASource("{file} is too large to be what its name says.", file=Path(path).name)
        return handle.read(most_bytes)


@contextlib.contextmanager
def _looked_at(path: str | Path) -> Iterator[tuple[int, os.stat_result]]:
    handle = os.open(path, os.O_PATH | os.O_CLOEXEC)
    try:
        said = os.fstat(handle)
        if not (stat.S_ISREG(said.st_mode) or stat.S_ISBLK(said.st_mode)):
            raise NotASource("{file} is no ordinary file.", file=Path(path).name)
        real = Path(f"/proc/self/fd/{handle}").readlink()
        if _roots is not None and not any(real.is_relative_to(root) for root in _roots()):
            raise OutsideFolders("{file} is a link that leads out of the folder.", file=Path(path).name)
        yield handle, said
    finally:
        os.close(handle)
