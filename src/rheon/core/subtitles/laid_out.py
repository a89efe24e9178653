"""Text subtitles where the engine finds them: beside it, under names that need no escaping."""

from __future__ import annotations

from pathlib import Path

from ..commands.names import LINK_NAME, subtitle_file
from ..formats import is_text
from ..media import FileData, Title
from ..system import read_inside
from .text import LARGEST_BYTES, read_subtitles, to_subrip


def lay_out(title: Title, track: int, work: Path) -> None:
    """Put what a text track needs into ``work``; nothing for pictures. Raises ``OSError``."""
    subtitle, data = title.subtitles[track], title.data
    if subtitle.path is not None:
        text = to_subrip(read_subtitles(read_inside(subtitle.path, LARGEST_BYTES)))
        (work / subtitle_file(track)).write_text(text, encoding="utf-8")
    elif is_text(subtitle) and isinstance(data, FileData) and not (work / LINK_NAME).is_symlink():
        (work / LINK_NAME).symlink_to(data.path)
