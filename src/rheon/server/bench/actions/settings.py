"""Balance and pins."""

from __future__ import annotations

from collections.abc import Mapping

from rheon.core.planning import Balance
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from ..models import Bench, Setting
from ..planning import plan_cell


def set_balance(balance: Balance) -> None:
    Bench.objects.update_or_create(pk=1, defaults={"balance": balance.value})


def change_setting(title: Title, device: Device, balance: str | None, pins: Mapping[str, str | None]) -> Setting:
    """Set a cell's balance and pins; a pin of ``None`` lets Rheon choose again.

    Raises ``BadPin`` or ``PlanError``, and then keeps what was.
    """
    row = Setting.objects.filter(title=title, device=device).first() or Setting(title=title, device=device)
    if balance is not None:
        row.balance = balance
    merged = {**row.pins, **pins}
    row.pins = {key: value for key, value in merged.items() if value is not None}
    plan_cell(title, device, row)
    row.save()
    return row
