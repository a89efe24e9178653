"""The cells of the crossing table: planned when first asked for and kept as long as nothing they rest on changes."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import TextField
from django.db.models.functions import Cast

from rheon.core.devices import DeviceProfile, Verdict
from rheon.core.errors import PlanError
from rheon.core.media import Machine, mark_of
from rheon.core.media import Title as CoreTitle
from rheon.core.planning import Balance, Estimate, Plan, PlanRequest, plan, read_pins
from rheon.core.wording import sentence
from rheon.server.home.machine import this_machine
from rheon.server.household.wishes import Liked, household_wishes, liked
from rheon.server.shelf.models import Title

from . import documents
from .models import CellOverride, Target
from .planning import bench_balance
from .targets import targets

MOST_KEPT = 60_000
MOST_TITLES = 2_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """What a cell shows, and a mark that is the same for plans that make the same file."""

    verdict: Verdict
    reason: str
    estimate: Estimate | None
    surround: bool
    broken: int
    file: str | None


class Recent:
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


_cells, _titles, _profiles = Recent(MOST_KEPT), Recent(MOST_TITLES), Recent(MOST_TITLES)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Column:
    """A target with what its cells rest on."""

    target: Target
    free_bytes: int | None
    liked: Liked
    profiles: tuple[DeviceProfile, ...]
    machine: Machine
    mark: int


def cells_document(title_ids: Sequence[int], named: Balance | None = None) -> list[documents.Cell]:
    """Every cell of these titles, title by title, target by target, at a balance (the Bench's where none is named)."""
    everyone, machine = household_wishes(), this_machine()
    columns = [_column(target, liked(target.device, everyone), machine) for target in targets()]
    settings = {(row.title_id, row.target_id): row for row in CellOverride.objects.filter(title_id__in=title_ids)}
    balance = named or bench_balance()
    # the stored text tells whether a title changed, without reading what it says
    found = Title.objects.filter(pk__in=title_ids).annotate(
        said=Cast("document", TextField()),
        seen=Cast("survey", TextField()),
        sampled=Cast("samples", TextField()),
        made=Cast("measured_rates", TextField()),
    )
    rows = {row.pk: row for row in found.defer("document", "survey", "samples", "outline")}
    cells: list[documents.Cell] = []
    for pk in title_ids:
        if pk in rows:
            cells += _row(rows[pk], columns, settings, balance)
    return cells


def _column(target: Target, wishes: Liked, machine: Machine) -> _Column:
    said = target.goal or tuple((row.name, repr(row.profile)) for row in target.devices)
    profiles = _profiles.get(said)
    if profiles is None:
        profiles = target.profiles
        _profiles.put(said, profiles)
    return _Column(
        target=target,
        free_bytes=target.free_bytes,
        liked=wishes,
        profiles=profiles,
        machine=machine,
        mark=hash((target.pk, said, wishes, machine)),
    )


def _row(
    title: Any, columns: Sequence[_Column], settings: dict[tuple[int, int], CellOverride], balance: Balance
) -> list[documents.Cell]:
    """A title's cells; one whose file would be the same as an earlier one's names that target."""
    by_hand = repr((title.chapters_by_hand, title.cover_by_hand, title.set_for_files))
    mark = hash((title.said, title.seen, title.sampled, title.made, title.name, title.angle, by_hand))
    cells: list[documents.Cell] = []
    first: dict[str, int] = {}
    for column in columns:
        own = settings.get((title.pk, column.target.pk))
        wanted = Balance(own.balance) if own and own.balance else balance
        pins = own.pins if own else {}
        key = (title.pk, mark, column.mark, wanted, repr(sorted(pins.items())))
        made = _cells.get(key)
        if made is None:
            made = _planned(title, mark, column, wanted, pins)
            _cells.put(key, made)
        target = column.target.pk
        earlier = first.setdefault(made.file, target) if made.file is not None else target
        cells.append(
            documents.Cell(
                title_id=title.pk,
                target_id=target,
                verdict=made.verdict,
                reason=made.reason,
                estimate=made.estimate,
                surround=made.surround,
                same_as=earlier if earlier != target else None,
                by_hand=bool(pins or (own and own.balance)),
                broken=made.broken,
                too_large=_too_large(made.estimate, column.free_bytes),
            )
        )
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
            subtitles=column.liked.subtitles,
            samples=title.core_samples(),
            measured_rates=title.core_measured_rates(),
            machine=column.machine,
            set_by_hand=title.set_for_files,
        )
        made = plan(request, explained=False)
    except PlanError as error:
        return Planned(verdict=Verdict.CANNOT, reason=error.what, estimate=None, surround=False, broken=0, file=None)
    return _shown(made)


def _shown(made: Plan) -> Planned:
    sound = made.settings.sound if made.settings else None
    return Planned(
        verdict=made.treatment,
        reason=sentence(made.reason),
        estimate=made.estimate,
        surround=bool(sound and sound.channels > 2),
        broken=len(made.breaches),
        file=mark_of(made.settings) if made.settings else None,
    )


def _too_large(estimate: Estimate | None, free_bytes: int | None) -> bool:
    return estimate is not None and free_bytes is not None and estimate.size_bytes > free_bytes
