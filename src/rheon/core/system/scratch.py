"""Temporary files that name the process they belong to, so that a later one can clear away what a killed one left."""

from __future__ import annotations

import atexit
import re
import shutil
import tempfile
from pathlib import Path

from .identity import is_alive, process_identity

PREFIX = "rheon"
_MARK = re.compile(r"p(\d+)s(\d+)x")


def own_mark() -> str:
    """Letters and digits that say which process something belongs to."""
    pid, _, start = process_identity().partition(":")
    return f"p{pid}s{start}x"


def owner_of(name: str) -> str | None:
    """The identity of the process whose mark a name carries; ``None`` where it carries none."""
    found = _MARK.search(name)
    return f"{found[1]}:{found[2]}" if found else None


def is_left_over(name: str) -> bool:
    """Whether a name carries the mark of a process that is gone."""
    owner = owner_of(name)
    return owner is not None and not is_alive(owner)


def use_scratch(root: Path) -> Path:
    """Have all temporary files of this process in one folder under ``root``, which goes when the process ends.

    What processes that are gone have left there is removed.
    """
    root.mkdir(parents=True, exist_ok=True)
    clear_left_over(root)
    folder = Path(tempfile.mkdtemp(prefix=f"{PREFIX}-{own_mark()}-", dir=root))
    tempfile.tempdir = str(folder)
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return folder


def clear_left_over(folder: Path) -> int:
    """Remove folders and files of processes that are gone; returns how many."""
    gone = [path for path in folder.glob(f"{PREFIX}-p*") if is_left_over(path.name)] if folder.is_dir() else []
    for path in gone:
        if path.is_dir() and not path.is_symlink():
            shutil.rmtree(path, ignore_errors=True)
        else:
            path.unlink(missing_ok=True)
    return len(gone)
