"""How the kept range is cut: to the picture, all or only its edges encoded, or where a copied stream can begin."""

from __future__ import annotations

from ....catalogue import say
from ....wording.lengths import ranges_text
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

EXACT, EDGES, COPY = "exact", "edges", "copy"


def _show(case: Case) -> Shown | None:
    if not case.made.kept:
        return None
    value = COPY if case.made.cut_as_copy else EDGES if case.made.middles else EXACT
    one = len(case.made.kept) == 1 and not case.title.joined
    offered = case.offers.get(CUT.key, (EXACT, COPY) if one else (EXACT,))
    texts = {
        EXACT: say("to the picture, anew") if EDGES in offered else say("to the picture"),
        EDGES: say("to the picture, copied"),
        COPY: _copy_text(case),
    }
    return Shown(
        value=value,
        text=texts[value],
        reason=case.reasons[CUT.key],
        keeps_reason=True,
        choices=tuple(Choice(value=one, text=texts[one]) for one in offered),
    )


def _copy_text(case: Case) -> str:
    """Where a copy would be cut, as far as that is known."""
    if not case.copy_ranges:
        return say("where streams can begin")
    return say("copied, {stretches}", stretches=ranges_text(case.copy_ranges))


CUT = DecisionKind(
    key="range.cut",
    label="Cut",
    help="To the picture, converted or with only the edges encoded, or at the nearest place where copies can begin.",
    form=OneOf((EXACT, EDGES, COPY), "way to cut"),
    show=_show,
    own=True,
)
