"""How a picture meets a screen of another shape."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import Reason, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_source

FIT, FILL, STRETCH = "fit", "fill", "stretch"
WAYS = {
    FIT: later("whole picture"),
    FILL: later("fill it, cut at the sides"),
    STRETCH: later("fill it, stretched"),
}


@of_source
def _show(case: Case, source: VideoStream, rotation: int) -> Shown:
    value = case.pins.said.get(SCREEN_FIT.key, FIT)
    return Shown(
        value=value,
        text=say(WAYS[value]),
        reason=Reason(code="whole_picture"),
        fine=True,
        choices=tuple(Choice(value=way, text=say(WAYS[way])) for way in case.offers.get(SCREEN_FIT.key, ())),
    )


SCREEN_FIT: DecisionKind[str] = DecisionKind(
    key="picture.screen_fit",
    label="On the screen",
    help="A picture of another shape than the screen: all of it, as much as fills the screen, or stretched to it.",
    form=OneOf(tuple(WAYS), "way to meet a screen"),
    show=_show,
)
