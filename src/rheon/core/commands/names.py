"""What files are called that are laid out for the engine in its working folder."""

from __future__ import annotations

LINK_NAME = "source"
"""The title's own file, in which its embedded tracks are."""
CHAPTERS_FILE = "chapters.txt"


PARTS_FILE = "parts.txt"
PICTURE_PIPE = "picture"
"""On which pictures come that are copied between encoded edges."""


def part_link(number: int) -> str:
    """A part of a join that is copied, under a name that needs no escaping."""
    return f"part-{number}"


def drawn_file(number: int) -> str:
    """Where the subtitle pictures to draw into a piece are."""
    return f"drawn-{number}.mkv"


def pipe_name(number: int) -> str:
    """The pipe on which a piece of a disc's title comes: standard input for the first."""
    return f"piece-{number}" if number else "0"


def subtitle_file(track: int) -> str:
    """What a track that is a file of its own is called."""
    return f"subtitles-{track}.srt"
