"""What lies beside a finished file under its name: subtitles to switch on, and its artwork."""

from __future__ import annotations

import glob
from pathlib import Path

from .artwork import ARTWORK_SUFFIX


def beside(path: Path) -> tuple[Path, ...]:
    """The files that belong to a file, in the order of their names."""
    stem = glob.escape(path.stem)
    found = (*path.parent.glob(f"{stem}.*.srt"), *path.parent.glob(f"{stem}{ARTWORK_SUFFIX}"))
    return tuple(sorted(one for one in found if one != path))
