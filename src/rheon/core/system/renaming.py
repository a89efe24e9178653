"""Renaming that never takes a name away from somebody."""

from __future__ import annotations

import ctypes
import errno
import os
from functools import cache
from pathlib import Path
from typing import Any

AT_FDCWD, RENAME_NOREPLACE = -100, 1
NOT_HERE = (errno.EPERM, errno.ENOTSUP, errno.EOPNOTSUPP, errno.ENOSYS, errno.EINVAL)
"""What a file system or a kernel says that does not know a way of renaming."""


def rename_new(part: Path, target: Path) -> None:
    """Rename that fails with ``FileExistsError`` where the name is taken, even by somebody at the same moment.

    A second link, then a rename that replaces nothing (renameat2(2); FAT knows no links), then claiming the name first:
    only the last one can leave an empty file behind when the machine stops between its two steps.
    """
    for way in (_by_link, _by_rename):
        try:
            way(part, target)
        except OSError as error:
            if error.errno not in NOT_HERE:
                raise
        else:
            return
    os.close(os.open(target, os.O_CREAT | os.O_EXCL | os.O_WRONLY))
    part.replace(target)


def _by_link(part: Path, target: Path) -> None:
    os.link(part, target)
    part.unlink()


def _by_rename(part: Path, target: Path) -> None:
    renameat2 = _renameat2()
    if renameat2 is None:
        raise OSError(errno.ENOSYS, os.strerror(errno.ENOSYS))
    if renameat2(AT_FDCWD, os.fsencode(part), AT_FDCWD, os.fsencode(target), RENAME_NOREPLACE):
        code = ctypes.get_errno()
        raise OSError(code, os.strerror(code), str(part), None, str(target))


@cache
def _renameat2() -> Any:
    """The C library's function, where it has one."""
    found = getattr(ctypes.CDLL(None, use_errno=True), "renameat2", None)
    if found is not None:
        found.argtypes = (ctypes.c_int, ctypes.c_char_p, ctypes.c_int, ctypes.c_char_p, ctypes.c_uint)
    return found
