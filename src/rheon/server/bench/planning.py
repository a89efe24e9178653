"""From rows to plans."""

from __future__ import annotations

from collections.abc import Mapping

from rheon.core.analysis import copied_stretches
from rheon.core.errors import RheonError
from rheon.core.media import Kept
from rheon.core.media import Title as CoreTitle
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions import Pins
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.server.household.wishes import liked
from rheon.server.shelf.actions.cache import material_mark
from rheon.server.shelf.models import Title

from .models import Bench, CellOverride, Target

MOST_FOUND = 500
_found: dict[tuple[str, str], tuple[Kept, ...] | None] = {}


def bench_balance() -> Balance:
    row = Bench.objects.first()
    return Balance(row.balance) if row else Balance.EVEN


def request_for(
    title: Title, target: Target, override: CellOverride | None = None, core: CoreTitle | None = None
) -> PlanRequest:
    """The request of one cell: what is liked there, and the Bench's balance where the cell has none.

    Raises ``BadPin``.
    """
    own = override.balance if override and override.balance else None
    pins = read_pins(override.pins if override else {})
    whole = core or title.core_title()
    wishes = liked(target.device)
    return PlanRequest(
        title=whole,
        devices=target.profiles,
        name=title.name,
        balance=Balance(own) if own else bench_balance(),
        pins=pins,
        languages=wishes.languages,
        sound=wishes.sound,
        subtitles=wishes.subtitles,
        samples=title.core_samples(),
        access=_access(title, whole, pins),
    )


def _access(title: Title, whole: CoreTitle, pins: Pins) -> tuple[Kept, ...] | None:
    """Where copies could be cut, if anything is; found out once."""
    said = pins.of(KEEP)
    if not said:
        return None
    key = (material_mark(title), pins.said[KEEP.key])
    if key not in _found:
        try:
            kept = kept_of(whole, said)
            title.readable_title()
        except RheonError:
            return None
        while len(_found) >= MOST_FOUND:
            _found.pop(next(iter(_found)), None)
        _found[key] = copied_stretches(whole, kept)
    return _found.get(key)


def plan_cell(title: Title, target: Target, override: CellOverride | None) -> Plan:
    """Raises ``BadPin`` or ``PlanError``."""
    return plan(request_for(title, target, override))


def stored_override(title_id: int, target_id: int) -> CellOverride | None:
    return CellOverride.objects.filter(title_id=title_id, target_id=target_id).first()


def kept_pins(pins: Mapping[str, str | None]) -> dict[str, str]:
    """Pins as they are stored, without those that are taken back. Raises ``BadPin``."""
    return dict(read_pins(pins).said)
