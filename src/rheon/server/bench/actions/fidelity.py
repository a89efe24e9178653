"""How much of the picture each balance keeps: measured in the background when somebody asks, and kept by content."""

from __future__ import annotations

import contextlib
import itertools
import os
import tempfile
import time
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from rheon.core.devices import DeviceKind
from rheon.core.encoding import (
    Fidelity,
    Hooks,
    Point,
    Viewing,
    Way,
    better,
    is_measurable,
    measure_fidelity,
    measured_rate,
    reference_in,
    together,
    turns_of,
    ways_left,
)
from rheon.core.engine import awaited, vmaf_engine
from rheon.core.errors import BadPin, PlanError, Stopped
from rheon.core.media import OutputSettings, VideoSettings, mark_of
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump, load
from rheon.core.planning import LINE_SHARES, Balance, PlanRequest, fewer_lines, plan, read_pins
from rheon.core.planning.decisions.picture import RATE
from rheon.server.shelf.actions.cache import material_mark
from rheon.server.shelf.actions.finding_out import find_out
from rheon.server.shelf.models import Finding, Title

from ..models import Target
from ..planning import request_of
from ..tasks import measure_balances_task

WATCHED_S = 60
"""What nobody has asked after for so long is not measured any further."""
VERSION = 9
"""Part of every mark: raise it when other figures come out."""
MOST_RATES = 60
"""So many ways to make files of a title are kept in mind, the newest."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """What is known so far, by balance and, under ``None``, of a rate by hand; ``better`` are smaller pictures that
    keep more at the same size. How many ways are ``missing``, and of how many ``more`` seconds would say it surer.
    Whether any is being measured, whether that can be done at all.
    """

    points: Mapping[Balance | None, Point]
    better: Mapping[Balance | None, Point]
    missing: int
    more: int
    measuring: bool
    failed: bool
    possible: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class _Made:
    """What a way makes, in how many turns it is measured, how large it is expected to be, and the pins that it has
    besides those that are set.
    """

    settings: OutputSettings
    video: VideoSettings
    turns: int
    size_bytes: int
    pins: Mapping[str, str]


Step = tuple[Way, int]
"""One turn of a way."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """A cell's title, how it is watched, and what each way makes of it: balances without a rate by hand, and at the
    one that is set. Empty where nothing can be measured.
    """

    title: Title
    viewing: Viewing
    ways: Mapping[Way, _Made]

    def mark(self, way: Way, turn: int = 0) -> str:
        """The same for the same pictures, made in the same way and seen on the same screen."""
        made = self.ways[way].settings
        seen = (made.video, made.kept, turn, self.viewing, vmaf_engine() is not None, VERSION)
        return f"fidelity-{mark_of(material_mark(self.title), *seen)}"[:40]

    def marks(self, way: Way) -> tuple[str, ...]:
        """One for each turn."""
        return tuple(self.mark(way, turn) for turn in range(self.ways[way].turns))

    @property
    def wish(self) -> Path:
        """There while somebody wants it measured; what is done meanwhile looks at it from another process."""
        name = mark_of(self.title.pk, tuple(self.mark(way) for way in self.ways))
        return Path(settings.RHEON_CACHE) / "measuring" / name

    def want(self) -> None:
        """From now on somebody waits for it."""
        self.wish.parent.mkdir(parents=True, exist_ok=True)
        self.wish.touch()

    @property
    def is_wanted(self) -> bool:
        try:
            return time.time() - self.wish.stat().st_mtime < WATCHED_S
        except OSError:
            return False


def measured(title: Title, target: Target) -> Measured:
    """What is known of a cell; asking keeps what is being measured going. Raises ``BadPin``."""
    cell = cell_of(title, target)
    if cell.is_wanted:
        with contextlib.suppress(OSError):
            os.utime(cell.wish)
    return _known(cell)


def ask_for_measures(title: Title, target: Target) -> Measured:
    """Have what is not known measured. Raises ``BadPin``."""
    cell = cell_of(title, target)
    known = _known(cell)
    if (known.missing or known.more) and not known.measuring:
        cell.want()
        transaction.on_commit(lambda: measure_balances_task.enqueue(title.pk, target.pk))
    return _known(cell)


def stop_measuring(title: Title, target: Target) -> Measured:
    """What was measured so far stays. Raises ``BadPin``."""
    cell = cell_of(title, target)
    cell.wish.unlink(missing_ok=True)
    return _known(cell)


def measure_now(title_id: int, target_id: int) -> None:
    """Measure one balance after the other as long as that is wanted, the source's side once for all that share it."""
    if (rows := rows_still_there(title_id, target_id)) is None:
        return
    title, cell = rows[0], cell_of(*rows)
    core = title.readable_title()
    try:
        with awaited(), tempfile.TemporaryDirectory(prefix="rheon-") as work:
            tried: set[Step] = set()
            while cell.is_wanted and (step := next((one for one in _left(cell) if one not in tried), None)):
                tried.add(step)
                measure_step(cell, core, step, Path(work))
    except Stopped:
        return
    finally:
        cell.wish.unlink(missing_ok=True)


def rows_still_there(title_id: int, target_id: int) -> tuple[Title, Target] | None:
    """A cell's rows; ``None`` where one was deleted before the work on them began."""
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    target = Target.objects.select_related("device__member").filter(pk=target_id).first()
    return (title, target) if title and target else None


def cell_of(title: Title, target: Target) -> Cell:
    request = request_of(title, target)
    free = read_pins({key: said for key, said in request.pins.said.items() if key != RATE.key})
    asked = {Way(one): replace(request, balance=one, pins=free) for one in Balance}
    if RATE in request.pins:
        asked[Way(None)] = request
    ways: dict[Way, _Made] = {}
    for way, wanted in asked.items():
        if (made := _made(wanted)) is None:
            continue
        ways[way] = made
        for step, share in enumerate(LINE_SHARES, start=1):
            if pins := fewer_lines(made.video, wanted.pins, share):
                smaller = _made(replace(wanted, pins=read_pins({**wanted.pins.said, **pins})), pins)
                if smaller is not None:
                    ways[Way(way.balance, step)] = smaller
    return Cell(title=title, viewing=_viewing(request, target), ways=ways)


def _made(request: PlanRequest, pins: Mapping[str, str] | None = None) -> _Made | None:
    """What a request makes, where that can be measured."""
    try:
        made = plan(request, explained=False)
    except (BadPin, PlanError):
        return None
    settings, estimate = made.settings, made.estimate
    if settings is None or settings.video is None or estimate is None or not is_measurable(request.title, settings):
        return None
    return _Made(
        settings=settings,
        video=settings.video,
        turns=turns_of(request.title, settings),
        size_bytes=estimate.size_bytes,
        pins=pins or {},
    )


def _viewing(request: PlanRequest, target: Target) -> Viewing:
    screens = [profile.screen for profile in request.devices if profile.screen]
    largest = max(screens, key=lambda screen: screen.width * screen.height, default=None)
    return Viewing(
        screen=(largest.width, largest.height) if largest else None,
        in_hand=target.device_kind is DeviceKind.PHONE,
    )


def _known(cell: Cell) -> Measured:
    rows = findings_of(cell)
    points = points_of(cell, rows)
    # also what was measured of this material under another title's row
    _note_rates(cell, points)
    left = list(ways_left(points, cell.ways))
    failed = {row.mark for row in rows if "failed" in row.document}
    return Measured(
        points={way.balance: point for way, point in points.items() if not way.step},
        better=better(points),
        missing=sum(way not in points for way in left),
        more=sum(way in points for way in left),
        measuring=any(cell.mark(*_step(points, way)) not in failed for way in left) and cell.is_wanted,
        failed=bool(failed),
        possible=bool(cell.ways),
    )


def _left(cell: Cell) -> Iterator[Step]:
    points = points_of(cell, findings_of(cell))
    return (_step(points, way) for way in ways_left(points, cell.ways))


def _step(points: Mapping[Way, Point], way: Way) -> Step:
    """The turn of a way that is to be measured next."""
    return way, len(points[way].turns) if way in points else 0


def findings_of(cell: Cell) -> list[Finding]:
    return list(Finding.objects.filter(mark__in={mark for way in cell.ways for mark in cell.marks(way)}))


def points_of(cell: Cell, rows: Iterable[Finding]) -> dict[Way, Point]:
    """What was measured; a smaller picture's size is told beside the one that it stands for, by the same seconds."""
    scores = {row.mark: load(Fidelity, row.document) for row in rows if "failed" not in row.document}
    found: dict[Way, Point] = {}
    # planned ones come first
    for way, made in sorted(cell.ways.items(), key=lambda item: item[0].step):
        known = itertools.takewhile(lambda mark: mark in scores, cell.marks(way))
        if not (turns := tuple(scores[mark] for mark in known)):
            continue
        size_bytes = made.size_bytes
        if way.step and (planned := found.get(Way(way.balance))) and made.video.quality is not None:
            share = together(turns).size_bytes / max(1, planned.in_turns(len(turns)).size_bytes)
            size_bytes = round(planned.size_bytes * share)
        found[way] = Point(
            turns=turns, of_turns=made.turns, size_bytes=size_bytes, lines=made.video.height, pins=made.pins
        )
    return found


def measure_step(cell: Cell, core: CoreTitle, step: Step, work: Path) -> None:
    """Measure a turn of a way in a folder, unless it is known already. Raises ``Stopped``."""
    find_out(cell.mark(*step), partial(_measured, cell, core, step, work))
    _note_rates(cell, points_of(cell, findings_of(cell)))


def _note_rates(cell: Cell, points: Mapping[Way, Point]) -> None:
    """Have plans of the title rest on what was made of it."""
    found = {}
    for way, point in points.items():
        made = cell.ways[way].settings
        if rate := measured_rate([one.stretches for one in point.turns], point.of_turns, made):
            found[made.picture_mark] = dump(rate)
    if all(cell.title.measured_rates.get(mark) == rate for mark, rate in found.items()):
        return
    with transaction.atomic():
        title = Title.objects.select_related("source").filter(pk=cell.title.pk).first()
        if title is None or material_mark(title) != material_mark(cell.title):
            return
        others = {mark: rate for mark, rate in title.measured_rates.items() if mark not in found}
        title.measured_rates = dict([*others.items(), *found.items()][-MOST_RATES:])
        title.measured_at = timezone.now()
        title.save(update_fields=["measured_rates", "measured_at"])
        cell.title.measured_rates = title.measured_rates


def _measured(cell: Cell, core: CoreTitle, step: Step, work: Path) -> dict[str, Any]:
    way, turn = step
    made = cell.ways[way].settings
    hooks = Hooks(should_stop=lambda: not cell.is_wanted)
    reference = reference_in(work, core, made, turn, hooks)
    return dump(measure_fidelity(core, made, cell.viewing, reference, hooks))
