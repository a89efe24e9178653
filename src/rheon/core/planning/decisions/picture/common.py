"""What the decisions about the picture share."""

from __future__ import annotations

from collections.abc import Callable

from ....media import Action, VideoSettings, VideoStream, aspect_text
from ..decision import Case, Shown

Show = Callable[[Case], Shown | None]


def of_encoded(show: Callable[[Case, VideoStream, VideoSettings], Shown | None]) -> Show:
    """Shown of the source's picture and the one that is made of it; not where it is copied or left out."""

    def shown(case: Case) -> Shown | None:
        source, made = case.title.video, case.made.video
        if source is None or made is None or made.action is Action.COPY:
            return None
        return show(case, source, made)

    return shown


def of_any(copied: Callable[[Case, VideoSettings], Shown], made: Show) -> Show:
    """Shown otherwise where the picture is copied."""

    def shown(case: Case) -> Shown | None:
        video = case.made.video
        return copied(case, video) if video is not None and video.action is Action.COPY else made(case)

    return shown


def shown_aspect(made: VideoSettings) -> str:
    return aspect_text(made.sample_aspect * made.width / made.height)
