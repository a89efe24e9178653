"""Which stretches of a title a plan is for, before anything else is decided. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...media import Kept, Reason
from ...media.kept import kept_title
from ..decisions.range import CUT, KEEP, RangeChoice
from ..decisions.range.cut import NEAR
from ..decisions.range.keep import kept_of
from ..request import PlanRequest


def with_range(request: PlanRequest, *, copies_only: bool = False) -> PlanRequest:
    """The request for the title as its kept range makes it. Raises ``BadPin`` or ``NoSuchTitle``.

    ``copies_only``: nothing may be encoded, so the cut is where streams can begin.
    """
    said = request.pins.of(KEEP)
    wanted = kept_of(request.title, said) if said else ()
    if not wanted:
        return replace(request, range=RangeChoice(reasons=((KEEP.key, Reason(code="whole_title")),)))
    near = len(wanted) == 1 and (copies_only or request.pins.of(CUT) == NEAR)
    kept = request.access if near and request.access is not None else wanted
    reasons = (
        (KEEP.key, Reason(code="pinned")),
        (CUT.key, _reason(wanted, kept, near=near, known=request.access is not None)),
    )
    chosen = RangeChoice(kept=kept, near=near, reasons=reasons)
    return replace(request, title=kept_title(request.title, kept), range=chosen)


def _reason(wanted: tuple[Kept, ...], kept: tuple[Kept, ...], *, near: bool, known: bool) -> Reason:
    if not near:
        return Reason(code="cut_exact")
    if not known:
        return Reason(code="cut_near_unknown")
    earlier = max(one.from_s - got.from_s for one, got in zip(wanted, kept, strict=True))
    later = max(got.until_s - one.until_s for one, got in zip(wanted, kept, strict=True))
    return Reason(code="cut_near", values={"earlier_s": round(earlier, 3), "later_s": round(later, 3)})
