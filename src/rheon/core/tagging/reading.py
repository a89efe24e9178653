"""All that is written in a finished file, as it is before other tags are put in."""

from __future__ import annotations

from pathlib import Path

from ..media import ContentKind, FileData, Title
from ..naming.written import tags_in
from .sound import read_description

WITH_COMMENTS = ("flac", "ogg")


def tags_of_file(title: Title) -> dict[str, str | int]:
    """Of a title that is a file; also what a program seems to have written. Raises ``TagsRefused``."""
    values: dict[str, str | int] = {**({} if title.video else {"kind": ContentKind.SOUND.value}), **tags_in(title)}
    if isinstance(title.data, FileData) and title.container in WITH_COMMENTS:
        # the engine tells description and comment as one
        description = read_description(Path(title.data.path))
        if description and values.get("comment") == description:
            del values["comment"]
        values |= {"description": description} if description else {}
    return values
