"""How the kept range is cut: exact to the picture, or at the places where a copied stream can begin."""

from __future__ import annotations

from ....catalogue import say
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

EXACT, NEAR = "exact", "copy"


def _show(case: Case) -> Shown | None:
    if not case.made.kept:
        return None
    video = case.made.video
    choices = [Choice(value=EXACT, text=say("to the picture")), Choice(value=NEAR, text=say("where streams can begin"))]
    return Shown(
        value=NEAR if case.made.cut_near else EXACT,
        text=say("where streams can begin") if case.made.cut_near else say("to the picture"),
        reason=case.reasons[CUT.key],
        keeps_reason=True,
        fine=video is None,
        choices=tuple(choices),
    )


CUT = DecisionKind(
    key="range.cut",
    label="Cut",
    help="Exact to the picture, which converts, or at the nearest place where copied streams can begin.",
    form=OneOf((EXACT, NEAR), "way to cut"),
    show=_show,
    own=True,
)
