"""What the decisions about the picture share."""

from __future__ import annotations

from ....media import Action, VideoSettings, VideoStream, aspect_text
from ..decision import Case


def encoded(case: Case) -> tuple[VideoStream, VideoSettings] | None:
    """The source's picture and the one that is made of it; ``None`` where it is copied or left out."""
    source, made = case.title.video, case.made.video
    if source is None or made is None or made.action is Action.COPY:
        return None
    return source, made


def shown_aspect(made: VideoSettings) -> str:
    return aspect_text(made.sample_aspect * made.width / made.height)
