"""What lies in a folder of films: the sources that it would be, or each file in it."""

from __future__ import annotations

import itertools
import os
import stat
from collections.abc import Collection, Iterator
from pathlib import Path

from ...naming.episodes import episode_name
from ...system import real_path
from ..images.disc_files import is_disc_folder
from .reader import FILE_SUFFIXES, VIDEO_SUFFIXES

IMAGE_SUFFIXES = frozenset({".iso", ".img"})
DEEPEST = 6
MOST_FOUND = 5000


def find_sources(root: Path, *, leave_out: Collection[Path] = ()) -> Iterator[Path]:
    """Every source in a folder, in the order of their names; nothing is opened.

    Disc folders are one source each, and so is a folder of numbered episodes; images and other films stand for
    themselves. What is hidden, leads out of the folder or can't be looked into is passed over. At most ``MOST_FOUND``.
    """
    return itertools.islice(_in_folder(root, root, frozenset(leave_out), 0), MOST_FOUND)


def find_files(root: Path) -> Iterator[Path]:
    """Every film and sound in a folder and below it, in the order of their names; nothing is opened.

    The files of disc folders are none of its own. What is passed over, and at most how many, is as for sources.
    """
    return itertools.islice(_files(root, root, 0), MOST_FOUND)


def _files(folder: Path, root: Path, depth: int) -> Iterator[Path]:
    if is_disc_folder(folder):
        return
    folders, films, _ = _entries(folder, root, FILE_SUFFIXES)
    yield from films
    if depth < DEEPEST:
        for inner in folders:
            yield from _files(inner, root, depth + 1)


def _in_folder(folder: Path, root: Path, leave_out: frozenset[Path], depth: int) -> Iterator[Path]:
    if folder in leave_out:
        return
    if is_disc_folder(folder):
        yield folder
        return
    folders, films, images = _entries(folder, root)
    numbered = [path for path in films if episode_name(path.stem, folder.name)]
    # two parts of one film among many others make no series of them all
    if len(numbered) > 1 and 2 * len(numbered) >= len(films) and not (folder == root and folders):
        yield folder
        films = []
    yield from images
    yield from films
    if depth < DEEPEST:
        for inner in folders:
            yield from _in_folder(inner, root, leave_out, depth + 1)


def _entries(
    folder: Path, root: Path, suffixes: Collection[str] = VIDEO_SUFFIXES
) -> tuple[list[Path], list[Path], list[Path]]:
    """Folders, files with such endings, and images, by name; empty where the folder may not be looked into."""
    folders, films, images = [], [], []
    try:
        with os.scandir(folder) as entries:
            listed = sorted(entries, key=lambda entry: entry.name.casefold())
    except OSError:
        return [], [], []
    for entry in listed:
        path, suffix = Path(entry.path), Path(entry.name).suffix.lower()
        if entry.name.startswith(".") or (entry.is_symlink() and not real_path(path).is_relative_to(root)):
            continue
        mode = _mode(entry)
        if stat.S_ISDIR(mode):
            if not entry.is_symlink():  # a link inside the folder would be found twice
                folders.append(path)
        elif stat.S_ISREG(mode) and suffix in suffixes:
            films.append(path)
        elif stat.S_ISREG(mode) and suffix in IMAGE_SUFFIXES:
            images.append(path)
    return folders, films, images


def _mode(entry: os.DirEntry[str]) -> int:
    """What kind of thing it is; none of any where that can't be told, as for links that loop."""
    try:
        return entry.stat().st_mode
    except OSError:
        return 0
