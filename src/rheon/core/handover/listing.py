"""What lies in folders, each looked into once: for questions about many files at a time."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path

from ..delivery import folded, numbered, stems_beside


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A file or folder as it was found; ``size_bytes`` is ``None`` for a folder."""

    path: Path
    size_bytes: int | None


@dataclass(slots=True)
class Listing:
    """Folders as they were at the first question about each."""

    _folders: dict[Path, dict[str, Found]] = field(default_factory=dict)
    _beside: dict[Path, dict[str, int]] = field(default_factory=dict)

    def inside(self, folder: Path) -> Mapping[str, Found]:
        """What lies in a folder, by its name without its capitals; nothing where it is not there."""
        if folder not in self._folders:
            self._folders[folder] = {folded(one.path.name): one for one in _entries(folder)}
        return self._folders[folder]

    def size_of(self, path: Path) -> int | None:
        """The bytes of a file and of what lies beside it under its name; ``None`` where it is not there."""
        found = self.inside(path.parent).get(folded(path.name))
        if found is None or found.path != path or found.size_bytes is None:
            return None
        return found.size_bytes + self._sides(path.parent).get(path.stem, 0)

    def under_name(self, folder: Path, name: str) -> Iterator[Found]:
        """The files that have the name, in capitals or not, and those with a number behind it."""
        *folders, own = name.split("/")
        for one in folders:
            inner = self.inside(folder).get(folded(one))
            if inner is None or inner.size_bytes is not None:
                return
            folder = inner.path
        number = 1
        while (found := self.inside(folder).get(folded(numbered(own, number)))) is not None:
            if found.size_bytes is not None:
                yield found
            number += 1

    def _sides(self, folder: Path) -> Mapping[str, int]:
        """What lies beside a file, in bytes, by the file's stem: ``Film.en.srt`` and ``Film.jpg`` beside ``Film``."""
        if folder not in self._beside:
            sides: dict[str, int] = {}
            for one in self.inside(folder).values():
                for stem in stems_beside(one.path.name) if one.size_bytes else ():
                    sides[stem] = sides.get(stem, 0) + (one.size_bytes or 0)
            self._beside[folder] = sides
        return self._beside[folder]


def _entries(folder: Path) -> Iterator[Found]:
    try:
        with os.scandir(folder) as entries:
            for entry in entries:
                size = None if entry.is_dir() else entry.stat().st_size if entry.is_file() else None
                yield Found(path=Path(entry.path), size_bytes=size)
    except OSError:
        return
