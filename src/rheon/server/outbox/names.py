"""How a file that was made is called by its tags."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from rheon.core.media import Tags
from rheon.core.media.documents import load
from rheon.core.naming.patterns import Naming
from rheon.server.home.naming import called_here, house_naming
from rheon.server.home.queries import output_folders

from .models import Output


def root_of(path: Path, folders: Sequence[Path] = ()) -> Path:
    """The folder for all files in which one lies, of those that there are, if they are known already."""
    return next((one for one in folders or output_folders() if path.is_relative_to(one)), path.parent)


def called(output: Output, folders: Sequence[Path] = ()) -> str:
    """What an output is called on a device: as in the folder for files, with the folders before it."""
    path = Path(output.path)
    return path.relative_to(root_of(path, folders)).as_posix()


def name_by(output: Output, tags: Tags, naming: Naming | None = None, *, own_names: bool = True) -> str:
    """Behind its folders, with its ending, and with what was put behind its name to tell it from others.

    A name that no pattern has made stays unless ``own_names`` give way too.
    """
    patterns = naming or house_naming()
    path = Path(output.path)
    name = path.relative_to(root_of(path)).with_suffix("").as_posix()
    before = called_here(load(Tags, output.tags), patterns)
    by_pattern = name == before or name.startswith(f"{before} (")
    if not by_pattern and not own_names:
        return f"{name}{path.suffix}"
    return f"{called_here(tags, patterns)}{name.removeprefix(before) if by_pattern else ''}{path.suffix}"
