"""Temporary files that name the process they belong to, so that a later one can clear away what a killed one left."""

from __future__ import annotations

import atexit
import hashlib
import re
import secrets
import shutil
import tempfile
from pathlib import Path

from .identity import is_alive, process_identity, this_host

PREFIX = "rheon"
_MARK = re.compile(r"p(\d+)s(\d+)(?:h([0-9a-f]{8}))?x")
"""Process, its start, and its machine; older marks name none and are of this one."""


def own_mark() -> str:
    """Letters and digits that say which process on which machine something belongs to."""
    pid, _, start = process_identity().partition(":")
    return f"p{pid}s{start}h{_host_mark()}x"


def own_token() -> str:
    """The mark of this process and a few letters that it has given nothing else: at most 40 together."""
    return own_mark() + secrets.token_hex(4)


def is_left_over(name: str) -> bool:
    """Whether a name carries the mark of a process of this machine that is gone."""
    found = _MARK.search(name)
    return found is not None and not _elsewhere(found) and not _runs(found)


def may_be_in_use(name: str) -> bool:
    """Whether a name carries the mark of a process that runs, or of one on another machine."""
    found = _MARK.search(name)
    return found is not None and (_elsewhere(found) or _runs(found))


def is_elsewhere(name: str) -> bool:
    """Whether a name carries the mark of a process on another machine."""
    found = _MARK.search(name)
    return found is not None and _elsewhere(found)


def _elsewhere(found: re.Match[str]) -> bool:
    return found[3] not in (None, _host_mark())


def _runs(found: re.Match[str]) -> bool:
    return is_alive(f"{found[1]}:{found[2]}")


def _host_mark() -> str:
    return hashlib.blake2b(this_host().rpartition("/")[0].encode(), digest_size=4).hexdigest()


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
