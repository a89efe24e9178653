"""Which part of a title a plan is for, before anything else is decided. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...media import KeptRange, Reason
from ...media.kept import kept_title
from ..decisions import PINNED
from ..decisions.range import CUT, KEEP, RangeChoice
from ..decisions.range.cut import COPY
from ..decisions.range.keep import kept_of
from ..request import PlanRequest


def with_range(request: PlanRequest, *, copies_only: bool = False) -> PlanRequest:
    """The request for the title as its kept range makes it. Raises ``BadPin`` or ``NoSuchTitle``.

    ``copies_only``: nothing may be encoded, so the cut is where streams can begin.
    """
    said = request.pins.of(KEEP)
    wanted = kept_of(request.title, said) if said else ()
    if not wanted:
        return replace(request, range=RangeChoice(reasons={KEEP.key: Reason(code="whole_title")}))
    if request.title.joined and request.pins.of(CUT) == COPY:
        raise CUT.refuse("A join can only be cut to the picture, which converts it.")
    as_copy = len(wanted) == 1 and (copies_only or request.pins.of(CUT) == COPY)
    kept = request.copy_ranges if as_copy and request.copy_ranges else wanted
    reasons = {KEEP.key: PINNED, CUT.key: _cut_reason(request, wanted[0], as_copy=as_copy)}
    chosen = RangeChoice(kept=kept, as_copy=as_copy, reasons=reasons)
    return replace(request, title=kept_title(request.title, kept), range=chosen)


def _cut_reason(request: PlanRequest, wanted: KeptRange, *, as_copy: bool) -> Reason:
    if not as_copy:
        return Reason(code="cut_exact")
    if not request.copy_ranges:
        return Reason(code="cut_copied_unknown")
    copied = request.copy_ranges[0]
    earlier_s, later_s = wanted.from_s - copied.from_s, copied.until_s - wanted.until_s
    return Reason(code="cut_copied", values={"earlier_s": round(earlier_s, 3), "later_s": round(later_s, 3)})
