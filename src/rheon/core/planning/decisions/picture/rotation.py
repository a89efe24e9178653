"""How the picture is turned to be seen upright."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import Reason, VideoStream
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, OneNumber
from .common import of_source

TURNS = {
    0: later("not turned"),
    90: later("a quarter to the right"),
    180: later("upside down"),
    270: later("a quarter to the left"),
}
"""Degrees clockwise, from how the picture is stored."""


@of_source
def _show(case: Case, source: VideoStream, rotation: int) -> Shown:
    told = say(TURNS[-source.rotation % 360])
    as_source = Choice(value=AUTOMATIC, text=say("as the source says: {turn}", turn=told))
    turns = (Choice(value=str(degrees), text=say(text)) for degrees, text in TURNS.items())
    return Shown(
        value=case.pins.said.get(ROTATION.key, AUTOMATIC),
        text=say(TURNS[-rotation % 360]),
        reason=Reason(code="turned_as_source"),
        fine=not source.rotation,
        choices=(as_source, *turns),
    )


ROTATION = DecisionKind(
    key="picture.rotation",
    label="Turned",
    help="How the stored picture is turned to be seen upright, in degrees to the right. Nothing is ever mirrored.",
    form=OneNumber(tuple(TURNS), "turn"),
    show=_show,
    own=True,
)
