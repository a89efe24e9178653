"""The artwork that goes into a file or beside it."""

from __future__ import annotations

from pathlib import Path

from ..analysis import cover_jpeg
from ..errors import RheonError
from ..media import OutputSettings, Reason, Title

ARTWORK_SUFFIX = ".jpg"


def artwork_for(title: Title, settings: OutputSettings) -> tuple[bytes | None, Reason | None]:
    """What is wanted as a JPEG; where it can't be had, why: the file is made without it."""
    if settings.cover is None:
        return None, None
    try:
        return cover_jpeg(title, settings.cover), None
    except RheonError as error:
        return None, Reason(code="made_without_artwork", values={"what": error.what})


def artwork_part(part: Path) -> Path:
    """Where the artwork lies that goes beside a file, until that has its name."""
    return part.with_name(f"{part.name}{ARTWORK_SUFFIX}")
