"""One picture of a title as a plan would make it: cropped, scaled, subtitles drawn in."""

from __future__ import annotations

import contextlib
from dataclasses import dataclass, replace
from pathlib import Path

from ..analysis.excerpts import excerpt, with_subtitles
from ..commands import subtitle_specifier
from ..commands.looking import BRIEFLY, preview
from ..commands.making.whole import drawn_text
from ..engine import Command, require, run
from ..errors import EngineError
from ..media import OutputSettings, Title
from ..subtitles import lay_out

TIMEOUT_S = 30
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
    if request.settings.video is None:
        raise EngineError("Only the sound goes into this file.", advice="")
    drawn = request.settings.drawn
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
    from_s = max(0.0, request.at_s - lead_s)
    source = excerpt(title, from_s)
    drawn = made.drawn
    pictures = subtitle_specifier(title, drawn.track) if drawn and not drawn.is_text else None
    text = drawn_text(title, drawn.track) if drawn and drawn.is_text else None
    if text is not None:
        text = replace(text, start_s=text.start_s + from_s)
    argv = preview(source.view.begun(start), made.video, (pictures, text), request.at_s - from_s)
    feed = with_subtitles(title, drawn.track if drawn else None, source.feed)
    return run(Command(argv=argv, feed=feed, timeout_s=TIMEOUT_S, cwd=str(work))).stdout
