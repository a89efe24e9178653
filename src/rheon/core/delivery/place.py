"""Putting a finished file under its name, without ever overwriting another."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from pathlib import Path

from ..errors import TargetError, TargetReadOnly
from ..media.names import safe_stem
from ..system import rename_new

MOST_NUMBERS = 9999
LONGEST_MADE_FOR_BYTES = 50


def put_in_place(
    part: Path, file_name: str, about_to: Callable[[Path], None] | None = None, *, made_for: str = ""
) -> Path:
    """Give a finished file its name in the same folder.

    Where the name is taken, ``made_for`` is added to it, and where that is taken too, a number.
    ``about_to`` hears each name before it is tried, so that it can be noted down.
    Raises ``TargetError``; the file then still lies at ``part``.
    """
    for name in _names(file_name, made_for):
        target = part.parent / name
        if about_to is not None and not os.path.lexists(target):
            about_to(target)
        try:
            rename_new(part, target)
        except FileExistsError:
            continue
        except PermissionError as error:
            raise TargetReadOnly("The folder {folder} may not be written to.", folder=part.parent) from error
        return target
    raise TargetError("There are too many files called {name} in {folder}.", name=file_name, folder=part.parent)


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
