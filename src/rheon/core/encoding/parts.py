"""Parts: files and folders under a temporary name beside their target, until they are checked and get their own."""

from __future__ import annotations

import re
import shutil
from pathlib import Path

from ..commands.making import SIDE_SUFFIX

PART_PREFIX, PART_SUFFIX = ".rheon-", ".part"


def part_path(folder: Path, token: str) -> Path:
    """The part of a job. ``token`` is letters and digits."""
    return folder / f"{PART_PREFIX}{re.sub(r'[^A-Za-z0-9]', '', token)}{PART_SUFFIX}"


def part_token(part: Path) -> str:
    """The token of the job that a part, or what lies beside it, belongs to."""
    return part.name.removeprefix(PART_PREFIX).partition(PART_SUFFIX)[0]


def side_parts(part: Path) -> dict[int, Path]:
    """The text files that were made beside a job's file, by subtitle track."""
    found = part.parent.glob(f"{part.name}.*.{SIDE_SUFFIX}")
    return {int(path.name.split(".")[-2]): path for path in found if path.name.split(".")[-2].isdigit()}


def parts_in(folder: Path) -> list[Path]:
    """Everything in a folder that has not got its name yet."""
    return sorted(folder.glob(f"{PART_PREFIX}*{PART_SUFFIX}*")) if folder.is_dir() else []


def remove_part(part: Path) -> None:
    """Remove what an unfinished job left: a file or a folder, and what lies beside it under its name."""
    for path in part.parent.glob(f"{part.name}*"):
        if path.is_dir() and not path.is_symlink():
            shutil.rmtree(path, ignore_errors=True)
        else:
            path.unlink(missing_ok=True)
