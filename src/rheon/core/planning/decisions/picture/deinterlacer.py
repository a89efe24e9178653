"""By which method fields become frames."""

from __future__ import annotations

from ....media import Fields, Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import encoded

METHODS = {"bwdif": "bwdif, motion adaptive", "yadif": "yadif, quicker", "w3fdif": "w3fdif, steadier"}
USUAL = "bwdif"


def _show(case: Case) -> Shown | None:
    pictures = encoded(case)
    if pictures is None or pictures[1].fields is Fields.LEAVE:
        return None
    chosen = pictures[1].deinterlacer
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
