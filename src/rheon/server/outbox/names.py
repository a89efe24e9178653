"""How a file that was made is called by its tags."""

from __future__ import annotations

from pathlib import Path

from rheon.core.media import Tags
from rheon.core.media.documents import load
from rheon.core.naming.patterns import Naming
from rheon.server.home.naming import called_here, house_naming
from rheon.server.home.queries import output_folders

from .models import Output


def root_of(path: Path) -> Path:
    """The folder for all files in which one lies."""
    return next((one for one in output_folders() if path.is_relative_to(one)), path.parent)


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
