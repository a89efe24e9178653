"""Which shape the whole picture has, where the source says it wrongly."""

from __future__ import annotations

from ....catalogue import say
from ....media import Reason, VideoSettings, VideoStream
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Ratio
from .common import of_encoded, shown_aspect

ASPECTS = ("4:3", "16:9", "2.35", "2.39")


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    return Shown(
        value=case.pins.said.get(ASPECT.key, AUTOMATIC),
        text=shown_aspect(made),
        reason=Reason(code="aspect_of_source"),
        fine=True,
        choices=(Choice(value=AUTOMATIC, text=say("as on the source")), *(Choice(value=a, text=a) for a in ASPECTS)),
    )


ASPECT = DecisionKind(
    key="picture.aspect",
    label="Aspect",
    help="Width to height of the whole picture as it should be seen, where the source says it wrongly.",
    form=Ratio(0.25, 4, "wide for one high", "aspect"),
    show=_show,
)
