"""By which method fields become frames."""

from __future__ import annotations

from ....media import Fields, Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

METHODS = {"bwdif": "bwdif, motion adaptive", "yadif": "yadif, quicker", "w3fdif": "w3fdif, steadier"}
USUAL = "bwdif"


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown | None:
    if made.fields is Fields.LEAVE:
        return None
    chosen = made.deinterlacer
    return Shown(
        value=chosen,
        text=METHODS[chosen],
        reason=Reason(code="best_deinterlacer"),
        fine=True,
        choices=tuple(Choice(value=name, text=text) for name, text in METHODS.items()),
    )


DEINTERLACER = DecisionKind(
    key="picture.deinterlacer",
    label="Deinterlacer",
    help="The method by which fields become frames.",
    form=OneOf(tuple(METHODS), "deinterlacer"),
    show=_show,
)
