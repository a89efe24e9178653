"""By which method fields become frames."""

from __future__ import annotations

from ....catalogue import later, say
from ....media import Fields, Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

METHODS = {
    "bwdif": later("bwdif, motion adaptive"),
    "yadif": later("yadif, quicker"),
    "w3fdif": later("w3fdif, steadier"),
}
USUAL = "bwdif"


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown | None:
    if made.fields in (Fields.LEAVE, Fields.KEEP):
        return None
    chosen = made.deinterlacer
    return Shown(
        value=chosen,
        text=say(METHODS[chosen]),
        reason=Reason(code="best_deinterlacer"),
        fine=True,
        choices=tuple(Choice(value=name, text=say(text)) for name, text in METHODS.items()),
    )


DEINTERLACER = DecisionKind(
    key="picture.deinterlacer",
    label="Deinterlacer",
    help="The method by which fields become frames.",
    form=OneOf(tuple(METHODS), "deinterlacer"),
    show=_show,
)
