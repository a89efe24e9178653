"""One picture of a title as a plan would make it: cropped, scaled, subtitles drawn in."""

from __future__ import annotations

import contextlib
from dataclasses import dataclass, replace
from pathlib import Path

from ..analysis.excerpts import exact_excerpt, excerpt, with_subtitles
from ..analysis.scenes import shown_since
from ..commands import subtitle_specifier
from ..commands.looking import BRIEFLY, preview
from ..commands.making.filters import Timing
from ..commands.making.job import for_piece
from ..commands.making.whole import drawn_text
from ..engine import Command, require, run
from ..errors import EngineError
from ..media import OutputSettings, SubtitleSettings, Title
from ..media.joined import part_at
from ..media.kept import piece_shown
from ..subtitles import lay_out

TIMEOUT_S = 30
TICK = 0.4
SUBTITLE_LEAD_S = 4.0
"""Subtitle pictures are sent when they appear, so reading starts this long before the moment."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PreviewRequest:
    """A title, what is to be made of it, and the moment (seconds) to look at."""

    title: Title
    settings: OutputSettings
    at_s: float


def preview_jpeg(request: PreviewRequest, work: Path) -> bytes:
    """The picture as it will be, in square pixels. ``work`` is an empty folder. Raises ``EngineError``."""
    require("ffmpeg")
    request = _in_its_part(request)
    if request.settings.video is None:
        raise EngineError("Only the sound goes into this file.", advice="")
    drawn = _drawn(request)
    if drawn is not None:
        lay_out(request.title, drawn.track, work)
    pictures = drawn is not None and not drawn.is_text
    leads = (SUBTITLE_LEAD_S, 0.0) if pictures else (0.0, 2.0)
    for lead_s in leads:
        for start in (() if pictures else BRIEFLY, ()):
            with contextlib.suppress(EngineError):
                if picture := _picture(request, work, lead_s, tuple(start)):
                    return picture
    raise EngineError("No picture could be read there.", advice="")


def _picture(request: PreviewRequest, work: Path, lead_s: float, start: tuple[str, ...]) -> bytes:
    title, made = request.title, request.settings
    assert made.video is not None
    drawn = _drawn(request)
    if drawn is None:
        return _shown(request, max(0.0, request.at_s - lead_s), start)
    from_s = max(0.0, request.at_s - lead_s)
    source = excerpt(title, from_s)
    pictures = subtitle_specifier(title, drawn.track) if not drawn.is_text else None
    text = drawn_text(title, drawn.track) if drawn.is_text else None
    if text is not None:
        text = replace(text, start_s=text.start_s + from_s)
    argv = preview(source.view.begun(start), made.video, (pictures, text), request.at_s - from_s)
    feed = with_subtitles(title, drawn.track, source.feed)
    return run(Command(argv=argv, feed=feed, timeout_s=TIMEOUT_S, cwd=str(work))).stdout


def _in_its_part(request: PreviewRequest) -> PreviewRequest:
    """The moment of a joined title as one of its part, with what is done to that part's picture."""
    title, made = request.title, request.settings
    if not title.joined:
        return request
    placed = part_at(title, request.at_s)
    at_s = request.at_s - placed.at_s
    number = piece_shown(title, made.kept, placed.part, at_s)
    return PreviewRequest(title=placed.part, settings=for_piece(made, number), at_s=at_s)


def _drawn(request: PreviewRequest) -> SubtitleSettings | None:
    drawn = request.settings.drawn
    return None if drawn is None or request.title.subtitles[drawn.track].absent else drawn


def _shown(request: PreviewRequest, at_s: float, start: tuple[str, ...]) -> bytes:
    """Just the picture at the moment, where nothing is drawn into it that would have to be waited for."""
    made = request.settings.video
    assert made is not None
    with contextlib.suppress(EngineError, OSError):
        at_s = shown_since(request.title, at_s)
    source = exact_excerpt(request.title, at_s)
    shown_s = source.view.shown_s or 0.0
    # its time becomes zero, so that it lies on a tick of the rate, and the one before it on another
    timing = None if made.variable_rate else Timing(phase_s=shown_s)
    skip_s = shown_s if made.variable_rate else -TICK / float(made.frame_rate)
    begun = source.view.begun(() if source.looks_long else start)
    argv = preview(begun, made, (None, None), skip_s, timing)
    return run(Command(argv=argv, feed=source.feed, timeout_s=TIMEOUT_S)).stdout
