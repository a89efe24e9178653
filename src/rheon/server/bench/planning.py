"""From rows to plans."""

from __future__ import annotations

from rheon.core.devices import DeviceProfile
from rheon.core.media import Title as CoreTitle
from rheon.core.planning import Balance, Plan, PlanRequest, plan
from rheon.server.household import queries as household
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from .models import Bench, Setting


def bench_balance() -> Balance:
    row = Bench.objects.first()
    return Balance(row.balance) if row else Balance.EVEN


def request_for(
    title: Title, profile: DeviceProfile, setting: Setting | None, core: CoreTitle | None = None
) -> PlanRequest:
    """The request of one cell, with the household's languages and the Bench's balance where the cell has none."""
    own = setting.balance if setting and setting.balance else None
    return PlanRequest(
        title=core or title.core_title(),
        devices=(profile,),
        name=title.name,
        balance=Balance(own) if own else bench_balance(),
        pins=setting.pins if setting else {},
        languages=household.languages(),
        samples=title.core_samples(),
    )


def plan_cell(title: Title, device: Device, setting: Setting | None) -> Plan:
    """Raises ``BadPin`` or ``PlanError``."""
    return plan(request_for(title, device.core_profile(), setting))


def stored_setting(title_id: int, device_id: int) -> Setting | None:
    return Setting.objects.filter(title_id=title_id, device_id=device_id).first()
