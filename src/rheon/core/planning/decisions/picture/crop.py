"""What is cut away from the picture."""

from __future__ import annotations

import re

from ....catalogue import say
from ....media import Borders, VideoSettings, VideoStream
from ....wording import sides_text
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Special, Unreadable
from .common import of_encoded

NONE = "none"


def read(said: str) -> Borders:
    """Lines above, below, left and right, made even."""
    if said == NONE:
        return Borders()
    if not re.fullmatch(r"\d{1,4}(,\d{1,4}){3}", said):
        raise Unreadable("“{said}” is no crop: say lines above, below, left and right, as in 60,60,0,0.", said=said)
    top, bottom, left, right = (int(part) // 2 * 2 for part in said.split(","))
    return Borders(top=top, bottom=bottom, left=left, right=right)


def crop_text(cut: Borders) -> str:
    """``60 above, 60 below``; ``nothing``."""
    return sides_text(cut.top, cut.bottom, cut.left, cut.right) or say("nothing")


def _value(cut: Borders) -> str:
    return f"{cut.top},{cut.bottom},{cut.left},{cut.right}"


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    choices = [Choice(value=AUTOMATIC, text=say("as proposed")), Choice(value=NONE, text=say("nothing"))]
    if source.borders is not None and source.borders.any:
        choices.insert(1, Choice(value=_value(source.borders), text=crop_text(source.borders)))
    if source.often_black is not None:
        text = say("{borders}, as in part of the pictures", borders=crop_text(source.often_black))
        choices.append(Choice(value=_value(source.often_black), text=text))
    return Shown(
        value=_value(made.crop) if made.crop.any else NONE,
        text=crop_text(made.crop),
        reason=case.reasons[CROP.key],
        choices=tuple(choices),
    )


CROP = DecisionKind(
    key="picture.crop",
    label="Cut away",
    help="Borders of the stored picture that are left out: lines above, below, left and right.",
    form=Special(read, "60,60,0,0; none"),
    show=_show,
)
