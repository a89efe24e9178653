"""By which matrix the picture's colours are to be read."""

from __future__ import annotations

from ....catalogue import say
from ....formats import VIDEO_CODECS
from ....media import Colour, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

FAMILIES = {"smpte170m": "601", "bt470bg": "601", "fcc": "601", "bt709": "709", "bt2020nc": "2020", "bt2020c": "2020"}
NAMES = {"601": "BT.601", "709": "BT.709", "2020": "BT.2020"}
CHOICES = ("601", "709")


def family(colour: Colour) -> str:
    return FAMILIES.get(colour.matrix, "709")


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown | None:
    if made.colour is None:
        return None
    found = family(made.colour)
    limited = say("{colour}, limited range", colour=NAMES[found])
    written = VIDEO_CODECS[made.codec].names_colour
    return Shown(
        value=found,
        text=limited if written else say("{colour}, not written", colour=limited),
        reason=case.reasons[COLOUR.key],
        fine=True,
        choices=tuple(Choice(value=name, text=NAMES[name]) for name in CHOICES),
    )


COLOUR = DecisionKind(
    key="picture.colour",
    label="Colours",
    help="The matrix of the colours: BT.601 or BT.709.",
    form=OneOf(CHOICES, "colour matrix"),
    show=_show,
    rules=("dynamic_range",),
)
