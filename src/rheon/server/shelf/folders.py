"""What the server may read: the configured media folders, links resolved first."""

from __future__ import annotations

import os
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from django.conf import settings

from rheon.core.errors import OutsideFolders, SourceMissing
from rheon.core.media import FileData
from rheon.core.media import Title as CoreTitle
from rheon.core.sources import FILE_SUFFIXES, IMAGE_SUFFIXES, is_disc_folder
from rheon.core.system import path_text, real_path, set_fence, shown, text_path

MOST_ENTRIES = 2000
MEDIA_SUFFIXES = IMAGE_SUFFIXES | FILE_SUFFIXES | {".mpls"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """One line of the folder chooser."""

    name: str
    path: str
    kind: Literal["folder", "disc", "image", "file"]
    size_bytes: int | None


def fence_in() -> None:
    """Let this process open nothing outside the media folders, the drives and the pictures that people brought, whoever
    asks it to.
    """
    set_fence(_roots)


def _roots() -> Iterable[Path]:
    return (*settings.RHEON_MEDIA_FOLDERS, *map(Path, settings.RHEON_DRIVES), settings.RHEON_PICTURES)


def inside(text: str) -> Path:
    """The path that a text means, with links resolved. Raises ``OutsideFolders`` where it leaves the media folders."""
    path = text_path(text)
    resolved = real_path(path)
    if path not in settings.RHEON_DRIVES and not any(map(resolved.is_relative_to, settings.RHEON_MEDIA_FOLDERS)):
        raise OutsideFolders("This place is outside the media folders.")
    return resolved


def data_inside(title: CoreTitle) -> CoreTitle:
    """The title, after a look that its data still lie where they were read. Raises ``OutsideFolders``."""
    for part in title.joined:
        data_inside(part)
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
    if not os.path.isdir(folder):  # noqa: PTH112 - Path.is_dir raises for over-long names
        raise SourceMissing("There is no folder {folder} any more.", folder=folder.name)
    parent = path_text(str(folder.parent)) if folder not in roots else None
    entries = [entry for child in sorted(folder.iterdir(), key=_order)[:MOST_ENTRIES] if (entry := _entry(child))]
    return path_text(str(folder)), parent, entries


def _order(path: Path) -> tuple[bool, str]:
    return (not path.is_dir(), path.name.casefold())


def _entry(child: Path) -> Entry | None:
    """Folders and media files; what is hidden, no ordinary file, or leads out of the media folders is left out."""
    name, path = shown(child.name), path_text(str(child))
    if child.name.startswith(".") or not any(map(real_path(child).is_relative_to, settings.RHEON_MEDIA_FOLDERS)):
        return None
    if child.is_dir():
        return Entry(name=name, path=path, kind="disc" if is_disc_folder(child) else "folder", size_bytes=None)
    if child.suffix.lower() not in MEDIA_SUFFIXES or not child.is_file():
        return None
    is_image = child.suffix.lower() in IMAGE_SUFFIXES
    return Entry(name=name, path=path, kind="image" if is_image else "file", size_bytes=child.stat().st_size)
