"""The cells of the crossing table: planned when first asked for and kept as long as nothing they rest on changes."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import TextField
from django.db.models.functions import Cast

from rheon.core.devices import DeviceProfile
from rheon.core.errors import PlanError
from rheon.core.media import Title as CoreTitle
from rheon.core.media import mark_of
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.wording import sentence
from rheon.server.household import queries as household
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from .models import Setting
from .planning import bench_balance

MOST_KEPT = 60_000
MOST_TITLES = 2_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """What a cell shows, and a mark that is the same for plans that make the same file."""

    verdict: str
    reason: str
    estimate: dict[str, Any] | None
    surround: bool
    broken: int
    file: str | None


class Kept:
    """What was worked out, the longest unused going first. Shared by the threads of one process."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[Any, Any] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Any) -> Any:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
            return self._values.get(key)

    def put(self, key: Any, value: Any) -> None:
        with self._lock:
            self._values[key] = value
            while len(self._values) > self._most:
                self._values.popitem(last=False)


_cells, _titles, _profiles = Kept(MOST_KEPT), Kept(MOST_TITLES), Kept(MOST_TITLES)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Column:
    """A device with what its cells rest on."""

    device: Device
    liked: household.Liked
    profiles: tuple[DeviceProfile, ...]
    mark: int


def cells_document(title_ids: Sequence[int], named: str | None = None) -> list[dict[str, Any]]:
    """Every cell of these titles, title by title, device by device, at a balance (the Bench's where none is named)."""
    everyone = household.household_wishes()
    columns = [_column(device, household.liked(device, everyone)) for device in household.columns()]
    settings = {(row.title_id, row.device_id): row for row in Setting.objects.filter(title_id__in=title_ids)}
    balance = Balance(named) if named else bench_balance()
    # the stored text tells whether a title changed, without reading what it says
    found = Title.objects.filter(pk__in=title_ids).annotate(
        said=Cast("document", TextField()), seen=Cast("survey", TextField()), sampled=Cast("samples", TextField())
    )
    rows = {row.pk: row for row in found.defer("document", "survey", "samples", "outline")}
    cells: list[dict[str, Any]] = []
    for pk in title_ids:
        if pk in rows:
            cells += _row(rows[pk], columns, settings, balance)
    return cells


def _column(device: Device, liked: household.Liked) -> _Column:
    said = tuple((row.name, repr(row.profile)) for row in device.served())
    profiles = _profiles.get(said)
    if profiles is None:
        profiles = device.core_profiles()
        _profiles.put(said, profiles)
    return _Column(device=device, liked=liked, profiles=profiles, mark=hash((device.pk, said, liked)))


def _row(
    title: Any, columns: Sequence[_Column], settings: dict[tuple[int, int], Setting], balance: Balance
) -> list[dict[str, Any]]:
    """A title's cells; one whose file would be the same as an earlier one's names that device."""
    mark = hash((title.said, title.seen, title.sampled, title.name, title.angle, repr(title.chapter_names)))
    cells: list[dict[str, Any]] = []
    first: dict[str, int] = {}
    for column in columns:
        own = settings.get((title.pk, column.device.pk))
        wanted = Balance(own.balance) if own and own.balance else balance
        pins = own.pins if own else {}
        key = (title.pk, mark, column.mark, wanted, repr(sorted(pins.items())))
        made = _cells.get(key)
        if made is None:
            made = _planned(title, mark, column, wanted, pins)
            _cells.put(key, made)
        cell = _cell(title.pk, column.device, made)
        if made.file is not None:
            earlier = first.setdefault(made.file, column.device.pk)
            cell["same_as"] = earlier if earlier != column.device.pk else None
        cell["by_hand"] = bool(pins or (own and own.balance))
        cells.append(cell)
    return cells


def _planned(title: Any, mark: int, column: _Column, balance: Balance, pins: dict[str, str]) -> Planned:
    row = title.pk, mark
    core: CoreTitle | None = _titles.get(row)
    if core is None:
        core = title.core_title()
        _titles.put(row, core)
    try:
        request = PlanRequest(
            title=core,
            devices=column.profiles,
            name=title.name,
            balance=balance,
            pins=read_pins(pins),
            languages=column.liked.languages,
            sound=column.liked.sound,
            words=column.liked.words,
            samples=title.core_samples(),
        )
        made = plan(request, explained=False)
    except PlanError as error:
        return Planned(verdict="cannot", reason=error.what, estimate=None, surround=False, broken=0, file=None)
    return _shown(made)


def _shown(made: Plan) -> Planned:
    sound = made.settings.sound if made.settings else None
    return Planned(
        verdict=made.treatment.value,
        reason=sentence(made.reason),
        estimate=estimate_document(made),
        surround=bool(sound and sound.channels > 2),
        broken=len(made.breaches),
        file=mark_of(made.settings) if made.settings else None,
    )


def estimate_document(made: Plan) -> dict[str, Any] | None:
    expected = made.estimate
    if expected is None:
        return None
    return {
        "size_bytes": expected.size_bytes,
        "size_low_bytes": expected.size_low_bytes,
        "size_high_bytes": expected.size_high_bytes,
        "time_s": expected.time_s,
        "time_low_s": expected.time_low_s,
        "time_high_s": expected.time_high_s,
    }


def _cell(title_id: int, device: Device, made: Planned) -> dict[str, Any]:
    estimate = made.estimate
    size = int(estimate["size_bytes"]) if estimate else 0
    return {
        "title_id": title_id,
        "device_id": device.pk,
        "verdict": made.verdict,
        "reason": made.reason,
        "estimate": estimate,
        "surround": made.surround,
        "same_as": None,
        "by_hand": False,
        "broken": made.broken,
        "too_large": device.free_bytes is not None and size > device.free_bytes,
    }
