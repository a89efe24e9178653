"""A few seconds of a title that any browser plays, with a chosen audio track and subtitle."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from ..commands.looking import Snippet, snippet
from ..engine import Command, require, run
from ..errors import EngineError
from ..media import CellData, StreamKind, Title
from ..media.joined import part_at
from ..subtitles import lay_out
from .excerpts import excerpt, with_subtitles

LENGTH_S, LARGE_LENGTH_S, LARGE_LINES = 6.0, 3.0, 576
"""Large pictures take longest to decode; nobody should wait for two seconds."""
PROGRAM_BYTES, TRANSPORT_BYTES = 16 << 20, 70 << 20
TIMEOUT_S = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class SnippetRequest:
    """From when (seconds) and with which tracks, by their index; ``None`` for no sound or no subtitle."""

    title: Title
    from_s: float
    audio: int | None
    subtitle: int | None


def make_snippet(request: SnippetRequest, target: Path, work: Path) -> None:
    """Write some seconds as MP4 to ``target``; ``work`` is an empty folder. Raises ``EngineError`` or ``OSError``."""
    require("ffmpeg")
    placed = part_at(request.title, request.from_s)
    title, from_s = placed.part, request.from_s - placed.at_s
    audio, subtitle = _there(title, request)
    most = None
    if isinstance(title.data, CellData):
        most = TRANSPORT_BYTES if title.data.stream is StreamKind.TRANSPORT else PROGRAM_BYTES
    source = excerpt(title, from_s, most)
    if title.video is None and audio is None:
        raise EngineError("There is nothing to play in this title.", advice="")
    if subtitle is not None:
        lay_out(title, subtitle, work)
    wanted = Snippet(
        from_s=from_s,
        length_s=min(_length_s(title), max(1.0, title.duration_s - from_s)),
        audio=audio,
        subtitle=subtitle,
        target=str(target),
    )
    argv = snippet(source.view, wanted)
    run(Command(argv=argv, feed=with_subtitles(title, subtitle, source.feed), timeout_s=TIMEOUT_S, cwd=str(work)))


def _there(title: Title, request: SnippetRequest) -> tuple[int | None, int | None]:
    """The tracks that were asked for, as far as a part of a join has them."""
    audio, subtitle = request.audio, request.subtitle
    heard = audio is not None and not title.audio[audio].absent
    shown = subtitle is not None and not title.subtitles[subtitle].absent
    return audio if heard else None, subtitle if shown else None


def _length_s(title: Title) -> float:
    return LARGE_LENGTH_S if title.video and title.video.height > LARGE_LINES else LENGTH_S
