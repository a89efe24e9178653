"""Putting a finished file under its name, without ever overwriting another."""

from __future__ import annotations

import os
import unicodedata
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from ..errors import TargetError, TargetReadOnly
from ..naming.names import safe_stem
from ..system import rename_new

MOST_NUMBERS = 9999
LONGEST_MADE_FOR_BYTES = 50


def put_in_place(
    part: Path, file_name: str, about_to: Callable[[Path], None] | None = None, *, made_for: str = ""
) -> Path:
    """Give a finished file its name in the same folder, or below it where the name has folders before it.

    Where the name is taken, in capitals or not, ``made_for`` is added to it, and where that is taken too, a number.
    ``about_to`` hears each name before it is tried, so that it can be noted down.
    Raises ``TargetError``; the file then still lies at ``part``.
    """
    *folders, own = file_name.split("/")
    try:
        folder = _folder(part.parent, folders)
        taken = {folded(there.name) for there in folder.iterdir()}
        for name in _names(own, made_for):
            target = folder / name
            if folded(name) in taken:
                continue
            if about_to is not None and not os.path.lexists(target):
                about_to(target)
            try:
                rename_new(part, target)
            except FileExistsError:
                continue
            return target
    except PermissionError as error:
        raise TargetReadOnly("The folder {folder} may not be written to.", folder=part.parent) from error
    raise TargetError("There are too many files called {name} in {folder}.", name=own, folder=folder)


def _folder(root: Path, names: Sequence[str]) -> Path:
    """The folder below another, made where it is not there; one that is there in other capitals is taken.

    Raises ``TargetError`` where a file, or a link to elsewhere, has its name.
    """
    folder = root
    for name in names:
        there = next((one.name for one in folder.iterdir() if folded(one.name) == folded(name)), name)
        folder /= there
        if folder.is_symlink() or (folder.exists() and not folder.is_dir()):
            raise TargetError("{name} is no folder, so nothing can be put into it.", name=folder)
        folder.mkdir(exist_ok=True)
    return folder


def folded(name: str) -> str:
    """What file systems that do not tell capitals apart take for the same."""
    return unicodedata.normalize("NFC", name).casefold()


def _names(file_name: str, made_for: str) -> Iterator[str]:
    apart = safe_stem(made_for, "ntfs").encode()[:LONGEST_MADE_FOR_BYTES].decode(errors="ignore").strip()
    stem, dot, extension = file_name.rpartition(".")
    if made_for and dot:
        yield file_name
        file_name = f"{stem} ({apart}){dot}{extension}"
    yield from (numbered(file_name, number) for number in range(1, MOST_NUMBERS))


def numbered(file_name: str, number: int) -> str:
    """``Film.mp4``, then ``Film (2).mp4``, ``Film (3).mp4`` and so on."""
    if number == 1:
        return file_name
    stem, dot, extension = file_name.rpartition(".")
    return f"{stem} ({number}){dot}{extension}"
