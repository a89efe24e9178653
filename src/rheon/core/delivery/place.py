"""Putting a finished file under its name, without ever overwriting another."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

from ..errors import TargetError, TargetReadOnly
from ..system import rename_new

MOST_NUMBERS = 9999


def put_in_place(part: Path, file_name: str, about_to: Callable[[Path], None] | None = None) -> Path:
    """Give a finished file its name in the same folder; a number is added where the name is taken.

    ``about_to`` hears each name before it is tried, so that it can be noted down.
    Raises ``TargetError``; the file then still lies at ``part``.
    """
    for number in range(1, MOST_NUMBERS):
        target = part.parent / numbered(file_name, number)
        if about_to is not None and not os.path.lexists(target):
            about_to(target)
        try:
            rename_new(part, target)
        except FileExistsError:
            continue
        except PermissionError as error:
            raise TargetReadOnly(f"The folder {part.parent} may not be written to.") from error
        return target
    raise TargetError(f"There are too many files called {file_name} in {part.parent}.")


def numbered(file_name: str, number: int) -> str:
    """``Film.mp4``, then ``Film (2).mp4``, ``Film (3).mp4`` and so on."""
    if number == 1:
        return file_name
    stem, dot, extension = file_name.rpartition(".")
    return f"{stem} ({number}){dot}{extension}"
