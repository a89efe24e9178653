"""From rows to plans."""

from __future__ import annotations

from collections.abc import Mapping

from rheon.core.media import Title as CoreTitle
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins
from rheon.server.household import queries as household
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from .models import Bench, Setting


def bench_balance() -> Balance:
    row = Bench.objects.first()
    return Balance(row.balance) if row else Balance.EVEN


def request_for(
    title: Title, device: Device, setting: Setting | None = None, core: CoreTitle | None = None
) -> PlanRequest:
    """The request of one cell: what is liked there, and the Bench's balance where the cell has none.

    Raises ``BadPin``.
    """
    own = setting.balance if setting and setting.balance else None
    liked = household.liked(device)
    return PlanRequest(
        title=core or title.core_title(),
        devices=device.core_profiles(),
        name=title.name,
        balance=Balance(own) if own else bench_balance(),
        pins=read_pins(setting.pins if setting else {}),
        languages=liked.languages,
        sound=liked.sound,
        words=liked.words,
        samples=title.core_samples(),
    )


def plan_cell(title: Title, device: Device, setting: Setting | None) -> Plan:
    """Raises ``BadPin`` or ``PlanError``."""
    return plan(request_for(title, device, setting))


def stored_setting(title_id: int, device_id: int) -> Setting | None:
    return Setting.objects.filter(title_id=title_id, device_id=device_id).first()


def kept_pins(pins: Mapping[str, str | None]) -> dict[str, str]:
    """Pins as they are stored, without those that are taken back. Raises ``BadPin``."""
    return dict(read_pins(pins).said)
