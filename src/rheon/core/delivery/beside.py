"""What lies beside a finished file under its name: subtitles to switch on, and its artwork."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from .artwork import ARTWORK_SUFFIX

SUBTITLES_SUFFIX = ".srt"


def beside(path: Path) -> tuple[Path, ...]:
    """The files that belong to a file, in the order of their names."""
    if not path.parent.is_dir():
        return ()
    return tuple(sorted(one for one in path.parent.iterdir() if one != path and path.stem in stems_beside(one.name)))


def stems_beside(name: str) -> Iterator[str]:
    """The stems of files that something of this name belongs to: ``Film`` for ``Film.jpg`` and ``Film.en.srt``."""
    if name.endswith(ARTWORK_SUFFIX):
        yield name.removesuffix(ARTWORK_SUFFIX)
    elif name.endswith(SUBTITLES_SUFFIX):
        stem = name.removesuffix(SUBTITLES_SUFFIX)
        while "." in stem:
            stem = stem.rpartition(".")[0]
            yield stem
