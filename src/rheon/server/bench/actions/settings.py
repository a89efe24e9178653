"""Balance and pins: set, carried to other titles, kept under a name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from django.db import transaction

from rheon.core.errors import PlanError
from rheon.core.planning import Balance, Move, PinSet, carried, load_pin_set, moves, read_pins
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from ..models import Bench, Setting
from ..models import PinSet as PinSetRow
from ..planning import kept_pins, plan_cell, stored_setting


@dataclass(frozen=True, slots=True, kw_only=True)
class CarriedTo:
    """How many titles took the pins, and what some of them could not, in words."""

    count: int
    left: tuple[str, ...]


def set_balance(balance: Balance) -> None:
    Bench.objects.update_or_create(pk=1, defaults={"balance": balance.value})


def change_setting(
    title: Title, device: Device, balance: str | None, pins: Mapping[str, str | None]
) -> tuple[Move, ...]:
    """Set a cell's balance and pins; a pin of ``None`` lets Rheon choose again. Returns what moved with it.

    Raises ``BadPin`` or ``PlanError``, and then keeps what was.
    """
    row = stored_setting(title.pk, device.pk) or Setting(title=title, device=device)
    try:
        before = plan_cell(title, device, row)
    except PlanError:
        before = None
    if balance is not None:
        row.balance = balance
    row.pins = kept_pins({**row.pins, **pins})
    after = plan_cell(title, device, row)
    row.save()
    return moves(before, after, set(pins)) if before else ()


def carry_over(title: Title, device: Device, targets: Sequence[Title]) -> CarriedTo:
    """Give other titles this cell's balance and pins for the same device; what they can't take is named."""
    source = stored_setting(title.pk, device.pk)
    pins, balance = (source.pins, source.balance) if source else ({}, "")
    mine, set_by_hand = title.core_title(), read_pins(pins)
    count, left = 0, []
    with transaction.atomic():
        for target in targets:
            if target.pk == title.pk:
                continue
            found = carried(set_by_hand, mine, target.core_title())
            left += [f"{target.name}: {what}" for what in found.left]
            own = stored_setting(target.pk, device.pk)
            kept = {"file.name": own.pins["file.name"]} if own and "file.name" in own.pins else {}
            row = Setting(title=target, device=device, balance=balance, pins={**found.pins.said, **kept})
            try:
                plan_cell(target, device, row)
            except PlanError as error:
                left.append(f"{target.name}: {error.what}")
                continue
            Setting.objects.update_or_create(
                title=target, device=device, defaults={"balance": balance, "pins": row.pins}
            )
            count += 1
    return CarriedTo(count=count, left=tuple(left))


def siblings(title: Title) -> list[Title]:
    """The other titles of the same source with the same role."""
    return list(Title.objects.filter(source=title.source, role=title.role).exclude(pk=title.pk))


def keep_set(name: str, title: Title, device: Device) -> PinSetRow:
    """Keep a cell's balance and pins under a name; one of that name is replaced. Raises ``BadPin``."""
    setting = stored_setting(title.pk, device.pk)
    pins = {key: value for key, value in (setting.pins if setting else {}).items() if key != "file.name"}
    document = {"name": name, "balance": (setting.balance or None) if setting else None, "pins": pins}
    return _stored(PinSet.model_validate(document))


def take_set(text: str) -> PinSetRow:
    """Keep a set from its file. Raises ``BadPin``."""
    return _stored(load_pin_set(text))


def apply_set(row: PinSetRow, title: Title, device: Device) -> tuple[Move, ...]:
    """Set a cell as the set says; the name of its file stays. Raises ``BadPin`` or ``PlanError``."""
    own = stored_setting(title.pk, device.pk)
    off = {key: None for key in (own.pins if own else {}) if key != "file.name"}
    return change_setting(title, device, row.balance, {**off, **row.pins})


def core_set(row: PinSetRow) -> PinSet:
    return PinSet(name=row.name, balance=Balance(row.balance) if row.balance else None, pins=row.pins)


def _stored(kept: PinSet) -> PinSetRow:
    row, _ = PinSetRow.objects.update_or_create(
        name=kept.name, defaults={"balance": kept.balance.value if kept.balance else "", "pins": kept.pins}
    )
    return row
