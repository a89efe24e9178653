"""Arguments that keep the engine from opening anything but the media it was given. Pure."""

from __future__ import annotations

from ..formats import INDEXED
from ..media import StreamKind, Title
from .demuxers import READABLE
from .names import PARTS_FILE

READ_BEFORE_S = 12.0
"""Longer than any usual distance between key pictures."""
NO_SEEK_S = 0.5
"""So near its start a file is read from there: a place before the first picture may lie behind the key picture."""
OWN_START = ("-itsoffset", "0.000001")
"""Where any offset is given, the engine lets no stream that is left out change what it takes for a file's start."""
GUESSED_STAMPS = frozenset({"mpeg_ps"})
"""Containers of which not each picture has a time stamp: what the engine guesses after a jump goes to and fro, it takes
that for a clock that was set, and moves all that follows unless it has to keep the stamps.
"""
_PIPES = {StreamKind.PROGRAM: "mpeg", StreamKind.TRANSPORT: "mpegts"}


def pipe_input(kind: StreamKind, pipe: str = "0") -> list[str]:
    """Arguments for a disc's stream on standard input, or on another pipe by its name."""
    name = _PIPES[kind]
    return ["-protocol_whitelist", "pipe", "-format_whitelist", name, "-f", name, "-i", f"pipe:{pipe}"]


def safe_file_input(path: str) -> list[str]:
    """Arguments that open one media file and nothing that it may point at."""
    return ["-protocol_whitelist", "file", "-format_whitelist", READABLE, "-i", f"file:{path}"]


def parts_input() -> list[str]:
    """Arguments that open the parts of a join as they are laid out in the working folder, one after the other."""
    return ["-protocol_whitelist", "file", "-format_whitelist", f"concat,{READABLE}", "-f", "concat", "-i", PARTS_FILE]


def begin_at(title: Title, from_s: float) -> list[str]:
    """Arguments that read a title's file from a moment on, which is then zero."""
    if from_s <= 0:
        return []
    at = ["-ss", f"{from_s:.6f}"]
    kept = ["-copyts", "-start_at_zero", "-itsoffset", f"{-from_s:.6f}"]
    return [*kept, *at] if title.container in GUESSED_STAMPS else at


def read_before_s(title: Title, from_s: float) -> float:
    """How much before a moment of a file reading begins, so that what is shown there can be decoded."""
    if from_s <= NO_SEEK_S:
        return from_s
    return 0.0 if title.container in INDEXED else min(from_s, READ_BEFORE_S)


def video_specifier(title: Title, source: int = 0) -> str:
    """How the engine is told which video stream is meant: a disc's by its id, a file's by its place.

    ``source`` counts the engine's inputs.
    """
    video = title.video
    return f"{source}:V:0" if video is None else _specifier(video.stream_id, video.place, "V:0", source)


def audio_specifier(title: Title, track: int, source: int = 0) -> str:
    stream = title.audio[track]
    return _specifier(stream.stream_id, stream.place, f"a:{track}", source)


def subtitle_specifier(title: Title, track: int, source: int = 0) -> str:
    stream = title.subtitles[track]
    return _specifier(stream.stream_id, stream.place, f"s:{track}", source)


def _specifier(stream_id: int | None, place: int | None, kind: str, source: int = 0) -> str:
    if stream_id is not None:
        return f"{source}:i:{stream_id:#x}"
    return f"{source}:{kind if place is None else place}"
