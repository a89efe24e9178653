"""What the decisions about the picture share."""

from __future__ import annotations

from collections.abc import Callable

from ....catalogue import later, say
from ....media import Action, Reason, VideoSettings, VideoStream, aspect_text
from ..decision import Case, Shown
from ..form import Choice

Show = Callable[[Case], Shown | None]
OFF, LIGHT, STRONG = "off", "light", "strong"
STRENGTHS = {OFF: later("left as it is"), LIGHT: later("a little"), STRONG: later("much")}
"""Of what is taken out of a picture where somebody asks for it."""


def of_encoded(show: Callable[[Case, VideoStream, VideoSettings], Shown | None]) -> Show:
    """Shown of the source's picture and the one that is made of it; not where it is copied or left out."""

    def shown(case: Case) -> Shown | None:
        source, made = case.title.video, case.made.video
        if source is None or made is None or made.action is Action.COPY:
            return None
        return show(case, source, made)

    return shown


def of_source(show: Callable[[Case, VideoStream, int], Shown]) -> Show:
    """Shown of the source's picture and how it comes to be turned, also where it is copied; not where it is left out.

    The turn is as the source's: degrees counter-clockwise.
    """

    def shown(case: Case) -> Shown | None:
        source, made = case.title.video, case.made.video
        if source is None or made is None:
            return None
        return show(case, source, source.rotation if made.action is Action.COPY else made.rotation)

    return shown


def of_any(copied: Callable[[Case, VideoSettings], Shown], made: Show) -> Show:
    """Shown otherwise where the picture is copied."""

    def shown(case: Case) -> Shown | None:
        video = case.made.video
        return copied(case, video) if video is not None and video.action is Action.COPY else made(case)

    return shown


def strength_shown(value: str, reason: Reason, *, fine: bool) -> Shown:
    return Shown(
        value=value,
        text=say(STRENGTHS[value]),
        reason=reason,
        fine=fine,
        keeps_reason=True,
        choices=tuple(Choice(value=name, text=say(text)) for name, text in STRENGTHS.items()),
    )


def shown_aspect(made: VideoSettings) -> str:
    return aspect_text(made.sample_aspect * made.width / made.height)
