"""Balance and pins: set, transferred to other titles, kept under a name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from django.db import transaction

from rheon.core.errors import BadPin, PlanError
from rheon.core.planning import (
    CALLED_NOW,
    Balance,
    DecisionChange,
    PinSet,
    load_pin_set,
    plan_diff,
    read_pins,
    transfer,
)
from rheon.server.shelf.models import Title

from ..models import Bench, CellOverride, Target
from ..models import PinSet as PinSetRow
from ..planning import kept_pins, plan_cell, stored_override


@dataclass(frozen=True, slots=True, kw_only=True)
class TransferredTo:
    """How many titles took the pins, and what some of them could not, in words."""

    count: int
    left: tuple[str, ...]


def set_balance(balance: Balance) -> None:
    Bench.objects.update_or_create(pk=1, defaults={"balance": balance.value})


def change_override(
    title: Title, target: Target, balance: str | None, pins: Mapping[str, str | None]
) -> tuple[DecisionChange, ...]:
    """Set a cell's balance (empty for the Bench's) and pins; a pin of ``None`` lets Rheon choose again.

    Returns what moved with it: where nothing was made before, everything would have.

    Raises ``BadPin`` or ``PlanError``, and then keeps what was.
    """
    row = stored_override(title.pk, target.pk) or CellOverride(title=title, target=target)
    try:
        before = plan_cell(title, target, row)
    except PlanError:
        before = None
    if balance is not None:
        row.balance = str(balance)
    row.pins = kept_pins({**row.pins, **pins})
    after = plan_cell(title, target, row)
    row.save()
    return plan_diff(before, after, set(pins)) if before and before.settings else ()


def take_back_refused(title: Title, target: Target) -> None:
    """Take back what was set by hand in a cell and can't be meant there any more: a device, an encoder or a track may
    have gone. The rest stays, unless it is refused for something that was not set.

    Raises ``PlanError`` where no pin is the reason.
    """
    row = stored_override(title.pk, target.pk)
    if row is None:
        return
    row.pins = {CALLED_NOW.get(key, key): said for key, said in row.pins.items()}
    while True:
        try:
            plan_cell(title, target, row)
        except BadPin as error:
            if not row.pins:
                raise
            left = {key: said for key, said in row.pins.items() if key != error.facts.get("pin")}
            row.pins = left if len(left) < len(row.pins) else {}
        else:
            row.save()
            return


def transfer_pins(title: Title, target: Target, others: Sequence[Title]) -> TransferredTo:
    """Give other titles this cell's balance and pins for the same target; what they can't take is named."""
    source = stored_override(title.pk, target.pk)
    pins, balance = (source.pins, source.balance) if source else ({}, "")
    mine, set_by_hand = title.core_title(), read_pins(pins)
    count, left = 0, []
    with transaction.atomic():
        for other in others:
            if other.pk == title.pk:
                continue
            found = transfer(set_by_hand, mine, other.core_title())
            left += [f"{other.name}: {what}" for what in found.left]
            own = stored_override(other.pk, target.pk)
            kept = {"file.name": own.pins["file.name"]} if own and "file.name" in own.pins else {}
            row = CellOverride(title=other, target=target, balance=balance, pins={**found.pins.said, **kept})
            try:
                plan_cell(other, target, row)
            except PlanError as error:
                left.append(f"{other.name}: {error.what}")
                continue
            CellOverride.objects.update_or_create(
                title=other, target=target, defaults={"balance": balance, "pins": row.pins}
            )
            count += 1
    return TransferredTo(count=count, left=tuple(left))


def siblings(title: Title) -> list[Title]:
    """The other titles of the same source with the same role."""
    return list(Title.objects.filter(source=title.source, role=title.role).exclude(pk=title.pk))


def keep_set(name: str, title: Title, target: Target) -> PinSetRow:
    """Keep a cell's balance and pins under a name; one of that name is replaced. Raises ``BadPin``."""
    override = stored_override(title.pk, target.pk)
    pins = {key: value for key, value in (override.pins if override else {}).items() if key != "file.name"}
    document = {"name": name, "balance": (override.balance or None) if override else None, "pins": pins}
    return _stored(PinSet.model_validate(document))


def take_set(text: str) -> PinSetRow:
    """Keep a set from its file. Raises ``BadPin``."""
    return _stored(load_pin_set(text))


def apply_set(row: PinSetRow, title: Title, target: Target) -> tuple[DecisionChange, ...]:
    """Set a cell as the set says; the name of its file stays. Raises ``BadPin`` or ``PlanError``."""
    own = stored_override(title.pk, target.pk)
    off = {key: None for key in (own.pins if own else {}) if key != "file.name"}
    return change_override(title, target, row.balance, {**off, **row.pins})


def core_set(row: PinSetRow) -> PinSet:
    return PinSet(name=row.name, balance=Balance(row.balance) if row.balance else None, pins=row.pins)


def _stored(kept: PinSet) -> PinSetRow:
    row, _ = PinSetRow.objects.update_or_create(
        name=kept.name, defaults={"balance": kept.balance.value if kept.balance else "", "pins": kept.pins}
    )
    return row
