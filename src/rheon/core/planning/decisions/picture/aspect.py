"""Which shape the whole picture has, where the source says it wrongly."""

from __future__ import annotations

from fractions import Fraction

from ....catalogue import say
from ....media import Reason, VideoStream, aspect_text
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Ratio
from .common import of_source

ASPECTS = ("1:1", "4:3", "1.37", "3:2", "1.66", "16:9", "1.85", "2:1", "2.20", "2.35", "2.39", "3:4", "9:16")
"""Of television, of film on paper, in cinemas and in the hand."""


@of_source
def _show(case: Case, source: VideoStream, rotation: int) -> Shown:
    return Shown(
        value=case.pins.said.get(ASPECT.key, AUTOMATIC),
        text=aspect_text(case.pins.of(ASPECT) or _as_told(source, rotation)),
        reason=Reason(code="aspect_of_source"),
        fine=True,
        choices=(Choice(value=AUTOMATIC, text=say("as on the source")), *(Choice(value=a, text=a) for a in ASPECTS)),
    )


def _as_told(source: VideoStream, rotation: int) -> Fraction:
    """Of the whole picture, before anything is cut, as it is turned."""
    aspect = source.display_aspect
    return 1 / aspect if (rotation - source.rotation) % 180 else aspect


ASPECT = DecisionKind(
    key="picture.aspect",
    label="Aspect",
    help="Width to height of the whole picture as it should be seen, where the source says it wrongly.",
    form=Ratio(0.25, 4, "wide for one high", "aspect"),
    show=_show,
)
