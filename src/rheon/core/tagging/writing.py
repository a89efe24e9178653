"""Tags into a file, by its container; and into a finished one, which is whole at every moment."""

from __future__ import annotations

import contextlib
import os
import shutil
import struct
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path

from mutagen import MutagenError

from ..errors import TagsRefused
from ..formats import CONTAINERS
from ..media import Tags
from .matroska import write_matroska
from .mp4 import write_mp4
from .sound import write_comments, write_id3

TAGGED: Mapping[str, Callable[[Path, Tags, bytes | None], None]] = {
    "mp4": write_mp4,
    "matroska": write_matroska,
    "webm": write_matroska,
    "mp3": write_id3,
    "flac": write_comments,
    "ogg": write_comments,
}
"""How each container is tagged; in others the engine writes what their muxer knows a place for."""


def write_tags(path: Path, container: str, tags: Tags, cover: bytes | None = None) -> None:
    """Write tags and a picture, a JPEG, into a file that nobody else has yet. A picture that is there stays where there
    is no other one; an empty one takes it out. Raises ``TagsRefused`` or ``OSError``.
    """
    if container not in TAGGED:
        return
    try:
        TAGGED[container](path, tags, cover if CONTAINERS[container].cover else None)
    except MutagenError as error:
        raise TagsRefused("This file can't be tagged: {said}", said=str(error)) from error
    except struct.error as error:
        # places in it are counted in four bytes, and would come to lie behind the last one
        raise TagsRefused("This file can't be tagged: it has no room, and is too large to be moved.") from error


def retag(path: Path, part: Path, container: str, tags: Tags, cover: bytes | None = None) -> None:
    """Write other tags into a finished file, which is the old one or the new at every moment.

    Raises ``TagsRefused`` or ``OSError``.
    """
    with tagged_copy(path, part, container, tags, cover):
        part.replace(path)


@contextlib.contextmanager
def tagged_copy(path: Path, part: Path, container: str, tags: Tags, cover: bytes | None = None) -> Iterator[None]:
    """A copy with other tags at ``part``, in the same file system, to be given its name; what is left is removed.

    Raises ``TagsRefused`` or ``OSError``.
    """
    if container not in TAGGED:
        raise TagsRefused("Files of this kind have no place for tags that Rheon could change.")
    try:
        shutil.copy2(path, part)
        write_tags(part, container, tags, cover)
        with part.open("rb") as file:
            os.fsync(file.fileno())
        yield
    finally:
        part.unlink(missing_ok=True)
