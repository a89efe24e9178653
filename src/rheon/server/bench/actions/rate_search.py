"""The rate for a fidelity that somebody asked for: expected between what was measured, then tried until it is met."""

from __future__ import annotations

import contextlib
import tempfile
from pathlib import Path

from django.db import transaction

from rheon.core.encoding import Way
from rheon.core.errors import BadPin, PlanError, Stopped
from rheon.core.planning import DecisionChange
from rheon.core.planning.decisions.picture import RATE
from rheon.core.planning.decisions.picture.rate import QUALITY
from rheon.core.planning.picture.rate_search import lost_per_step, nearest_quality, next_quality, quality_for
from rheon.server.shelf.models import Title

from ..models import Target
from ..planning import stored_override
from ..tasks import find_rate_task
from .fidelity import Cell, cell_of, measure_step, points_of, rows_of, stop_measuring
from .overrides import change_override

MOST_TRIES = 5
NEAR = {True: 0.4, False: 0.1}
"""What is asked for is met within so much, of VMAF or in dB of SSIM."""
BY_HAND = Way(None)


def ask_for_fidelity(title: Title, target: Target, wanted: float) -> tuple[DecisionChange, ...]:
    """Pin the rate at which the picture is expected to keep so much, and have it tried. Raises ``BadPin``."""
    quality = quality_for(wanted, points := _measured_points(cell_of(title, target)))
    if quality is None:
        raise _out_of_reach(points, cell_of(title, target))
    stop_measuring(title, target)
    changed = change_override(title, target, None, {RATE.key: f"{QUALITY}:{quality}"})
    cell_of(title, target).want()
    transaction.on_commit(lambda: find_rate_task.enqueue(title.pk, target.pk, wanted))
    return changed


def find_rate_now(title_id: int, target_id: int, wanted: float) -> None:
    """Measure the pinned rate, and pin a nearer one, until none is; as long as somebody waits and changes nothing."""
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    target = Target.objects.select_related("device__member").filter(pk=target_id).first()
    if title is None or target is None:
        return
    with contextlib.suppress(Stopped, BadPin, PlanError), tempfile.TemporaryDirectory(prefix="rheon-") as work:
        _search(title, target, wanted, Path(work))


def _search(title: Title, target: Target, wanted: float, work: Path) -> None:
    tried: dict[int, float] = {}
    while True:
        pinned = _pinned(title, target)
        cell = cell_of(title, target)
        made = cell.ways.get(BY_HAND)
        if made is None or made.video.quality is None or f"{QUALITY}:{made.video.quality}" != pinned:
            return
        quality = made.video.quality
        core = title.readable_title()
        try:
            for turn in range(made.turns):
                measure_step(cell, core, (BY_HAND, turn), work)
        finally:
            cell.wish.unlink(missing_ok=True)
        point = points_of(cell, rows_of(cell)).get(BY_HAND)
        if point is None:
            return
        tried[quality] = point.score.mean
        near = NEAR[point.score.model is not None]
        following = next_quality(wanted, tried, lost_per_step(quality, _measured_points(cell)), near)
        if following in tried or len(tried) >= MOST_TRIES:
            following = nearest_quality(wanted, tried)
        if following == quality:
            return
        with transaction.atomic():
            if _pinned(title, target) != pinned:
                return
            change_override(title, target, None, {RATE.key: f"{QUALITY}:{following}"})
        if following in tried:
            return
        cell_of(title, target).want()


def _pinned(title: Title, target: Target) -> str | None:
    row = stored_override(title.pk, target.pk)
    return row.pins.get(RATE.key) if row else None


def _measured_points(cell: Cell) -> list[tuple[int, float]]:
    """(quality, mean) of what was measured in the planned size."""
    known = points_of(cell, rows_of(cell))
    return [
        (quality, point.score.mean)
        for way, point in known.items()
        if not way.fewer and (quality := cell.ways[way].video.quality) is not None
    ]


def _out_of_reach(points: list[tuple[int, float]], cell: Cell) -> BadPin:
    if not points and any(made.video.quality is None for made in cell.ways.values()):
        return BadPin("This codec is made at an average rate: ask for a size instead.", advice="", pin=RATE.key)
    if not points:
        return BadPin("Measure the balances first: the rate is found between them.", advice="", pin=RATE.key)
    means = [mean for _, mean in points]
    return BadPin(
        "Between what was measured lie {low:.1f} to {high:.1f}; choose something in between.",
        advice="",
        pin=RATE.key,
        low=min(means),
        high=max(means),
    )
