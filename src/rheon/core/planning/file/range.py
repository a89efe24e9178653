"""Which part of a title a plan is for, before anything else is decided. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...media import KeptRange, Reason
from ...media.kept import kept_title
from ..decisions import PINNED
from ..decisions.range import CUT, KEEP, RangeChoice
from ..decisions.range.cut import COPY, EDGES, EXACT
from ..decisions.range.keep import kept_of
from ..request import PlanRequest

LEAST_COPIED = 0.5
"""Where less of what is kept could be copied, it is converted in one piece."""


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
    middles = () if as_copy or copies_only else _middles(request, wanted)
    reasons = {KEEP.key: PINNED, CUT.key: _cut_reason(request, wanted, middles, as_copy=as_copy)}
    chosen = RangeChoice(kept=kept, as_copy=as_copy, middles=middles, reasons=reasons)
    return replace(request, title=kept_title(request.title, kept), range=chosen)


def all_converted(request: PlanRequest, reason: Reason) -> PlanRequest:
    """The request for a cut that copies nothing of the picture, and why."""
    reasons = {**request.range.reasons, CUT.key: reason}
    return replace(request, range=replace(request.range, middles=(), reasons=reasons))


def _middles(request: PlanRequest, wanted: tuple[KeptRange, ...]) -> tuple[KeptRange, ...]:
    """What is copied of the kept stretches while their edges are encoded, where that is worth it or was asked for."""
    by_hand = request.pins.of(CUT)
    middles = request.middles or ()
    if by_hand == EDGES and not middles:
        raise CUT.refuse(
            "The pictures of this title can't be copied between encoded ones; cut it to the picture instead."
        )
    if by_hand == EXACT or (by_hand is None and copied_share(wanted, middles) < LEAST_COPIED):
        return ()
    return middles


def copied_share(kept: tuple[KeptRange, ...], middles: tuple[KeptRange, ...]) -> float:
    whole_s = sum(one.length_s for one in kept)
    return sum(one.length_s for one in middles) / whole_s if whole_s else 0.0


def _cut_reason(
    request: PlanRequest, kept: tuple[KeptRange, ...], middles: tuple[KeptRange, ...], *, as_copy: bool
) -> Reason:
    if middles:
        encoded_s = sum(one.length_s for one in kept) - sum(one.length_s for one in middles)
        return Reason(code="cut_edges", values={"encoded_s": round(encoded_s, 3)})
    if not as_copy:
        return Reason(code="cut_exact")
    wanted = kept[0]
    if not request.copy_ranges:
        return Reason(code="cut_copied_unknown")
    copied = request.copy_ranges[0]
    earlier_s, later_s = wanted.from_s - copied.from_s, copied.until_s - wanted.until_s
    return Reason(code="cut_copied", values={"earlier_s": round(earlier_s, 3), "later_s": round(later_s, 3)})
