"""What files are called that are laid out for the engine in its working folder."""

from __future__ import annotations

LINK_NAME = "source"
"""The title's own file, in which its embedded tracks are."""
CHAPTERS_FILE, DRAWN_FILE = "chapters.txt", "drawn.mkv"


def subtitle_file(track: int) -> str:
    """What a track that is a file of its own is called."""
    return f"subtitles-{track}.srt"
