"""How the kept range is cut: exact to the picture, or at the places where a copied stream can begin."""

from __future__ import annotations

from ....catalogue import say
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .keep import stretches_text

EXACT, NEAR = "exact", "copy"


def _show(case: Case) -> Shown | None:
    if not case.made.kept:
        return None
    choices = [Choice(value=EXACT, text=say("to the picture"))]
    if len(case.made.kept) == 1 or case.made.cut_near:
        choices.append(Choice(value=NEAR, text=_near(case)))
    return Shown(
        value=NEAR if case.made.cut_near else EXACT,
        text=_near(case) if case.made.cut_near else say("to the picture"),
        reason=case.reasons[CUT.key],
        keeps_reason=True,
        choices=tuple(choices),
    )


def _near(case: Case) -> str:
    """Where a copy would be cut, as far as that is known."""
    if not case.access:
        return say("where streams can begin")
    return say("copied, {stretches}", stretches=stretches_text(case.access))


CUT = DecisionKind(
    key="range.cut",
    label="Cut",
    help="Exact to the picture, which converts, or at the nearest place where copied streams can begin.",
    form=OneOf((EXACT, NEAR), "way to cut"),
    show=_show,
    own=True,
)
