"""From rows to plans."""

from __future__ import annotations

from collections.abc import Mapping

from rheon.core.analysis import CutPlaces
from rheon.core.errors import RheonError, Stopped
from rheon.core.media import Title as CoreTitle
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions import Pins
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.server.home.machine import this_machine
from rheon.server.home.naming import house_naming
from rheon.server.household.wishes import liked
from rheon.server.shelf.actions.cuts import cut_places_of
from rheon.server.shelf.models import Title

from .models import Bench, CellOverride, Target


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
    places = cut_places(title, whole, pins)
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
        measured_rates=title.core_measured_rates(),
        copy_ranges=places.copies,
        middles=places.middles,
        machine=this_machine(),
        tags=title.tags(),
        naming=house_naming(),
        set_by_hand=title.set_for_files,
    )


def request_of(title: Title, target: Target) -> PlanRequest:
    """The request of one cell with what was set by hand there. Raises ``BadPin``."""
    return request_for(title, target, stored_override(title.pk, target.pk))


def cut_places(title: Title, whole: CoreTitle, pins: Pins) -> CutPlaces:
    """Where what is kept can be cut without encoding all of it, as far as that can be found out. Raises ``Stopped``."""
    said = pins.of(KEEP)
    try:
        kept = kept_of(whole, said) if said else ()
        return cut_places_of(title, kept) if kept else CutPlaces()
    except Stopped:
        raise
    except (RheonError, OSError):
        return CutPlaces()


def plan_cell(title: Title, target: Target, override: CellOverride | None) -> Plan:
    """Raises ``BadPin`` or ``PlanError``."""
    return plan(request_for(title, target, override))


def stored_override(title_id: int, target_id: int) -> CellOverride | None:
    return CellOverride.objects.filter(title_id=title_id, target_id=target_id).first()


def kept_pins(pins: Mapping[str, str | None]) -> dict[str, str]:
    """Pins as they are stored, without those that are taken back. Raises ``BadPin``."""
    return dict(read_pins(pins).said)
