"""What the server may read: the configured media folders, links resolved first."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from rheon.core.errors import OutsideFolders, SourceMissing
from rheon.core.media import FileData
from rheon.core.media import Title as CoreTitle
from rheon.core.sources import FILE_SUFFIXES, is_disc_folder

MOST_ENTRIES = 2000
IMAGE_SUFFIXES = frozenset({".iso", ".img"})
MEDIA_SUFFIXES = IMAGE_SUFFIXES | FILE_SUFFIXES | {".mpls"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """One line of the folder chooser: ``kind`` is ``folder``, ``disc``, ``image`` or ``file``."""

    name: str
    path: str
    kind: str
    size_bytes: int | None


def inside(path: str) -> Path:
    """The path with links resolved. Raises ``OutsideFolders`` where it leaves the media folders."""
    resolved = Path(path).resolve()
    if path in settings.RHEON_DRIVES:
        return resolved
    if not any(resolved.is_relative_to(folder) for folder in settings.RHEON_MEDIA_FOLDERS):
        raise OutsideFolders("This place is outside the media folders.")
    return resolved


def with_contents_inside(path: str) -> Path:
    """The path, where no link in a disc folder leads out of the media folders. Raises ``OutsideFolders``."""
    resolved = inside(path)
    if resolved.is_dir():
        levels = (resolved.glob("/".join("*" * depth)) for depth in (1, 2, 3))
        for entry in itertools.islice(itertools.chain.from_iterable(levels), MOST_ENTRIES):
            inside(str(entry))
    return resolved


def data_inside(title: CoreTitle) -> CoreTitle:
    """The title, after a look that its data still lie where they were read. Raises ``OutsideFolders``."""
    data = title.data
    paths = {data.path} if isinstance(data, FileData) else {extent.path for extent in data.extents}
    paths |= {track.path for track in title.subtitles if track.path}
    paths |= {title.artwork.path} if title.artwork else set()
    for path in paths:
        inside(path)
    return title


def list_folder(path: str | None) -> tuple[str | None, str | None, list[Entry]]:
    """(path, parent, entries): the media folders themselves where no path is given.

    Raises ``OutsideFolders`` or ``SourceMissing``.
    """
    roots = settings.RHEON_MEDIA_FOLDERS
    if path is None:
        if len(roots) > 1:
            return None, None, [Entry(name=str(r), path=str(r), kind="folder", size_bytes=None) for r in roots]
        path = str(roots[0])
    folder = inside(path)
    if not folder.is_dir():
        raise SourceMissing(f"There is no folder {folder.name} any more.")
    parent = str(folder.parent) if folder not in roots else None
    entries = [entry for child in sorted(folder.iterdir(), key=_order)[:MOST_ENTRIES] if (entry := _entry(child))]
    return str(folder), parent, entries


def _order(path: Path) -> tuple[bool, str]:
    return (not path.is_dir(), path.name.casefold())


def _entry(child: Path) -> Entry | None:
    if child.name.startswith(".") or not child.exists():
        return None
    if child.is_dir():
        kind = "disc" if is_disc_folder(child) else "folder"
        return Entry(name=child.name, path=str(child), kind=kind, size_bytes=None)
    if child.suffix.lower() not in MEDIA_SUFFIXES:
        return None
    kind = "image" if child.suffix.lower() in IMAGE_SUFFIXES else "file"
    return Entry(name=child.name, path=str(child), kind=kind, size_bytes=child.stat().st_size)
