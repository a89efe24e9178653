"""The rate for a fidelity that somebody asked for: expected between what was measured, then tried until it is met."""

from __future__ import annotations

import contextlib
import tempfile
from pathlib import Path

from django.db import transaction

from rheon.core.encoding import Fidelity, Way
from rheon.core.engine import awaited
from rheon.core.errors import BadPin, PlanError, Stopped
from rheon.core.planning import DecisionChange
from rheon.core.planning.decisions.picture import RATE
from rheon.core.planning.decisions.picture.rate import QUALITY
from rheon.core.planning.picture.rate_search import RateSearch, quality_for
from rheon.server.shelf.models import Title

from ..models import Target
from ..planning import stored_override
from ..tasks import find_rate_task
from .fidelity import Cell, cell_of, findings_of, measure_step, points_of, rows_still_there, stop_measuring
from .overrides import change_override

NEAR = {True: 0.4, False: 0.1}
"""What is asked for is met within so much, of VMAF or in dB of SSIM."""
BY_HAND = Way(None)


def ask_for_fidelity(title: Title, target: Target, wanted: float) -> tuple[DecisionChange, ...]:
    """Pin the rate at which the picture is expected to keep so much, and have it tried. Raises ``BadPin``."""
    cell = cell_of(title, target)
    quality = quality_for(wanted, points := _measured_points(cell))
    if quality is None:
        raise _out_of_reach(points, cell)
    stop_measuring(title, target)
    changed = change_override(title, target, None, {RATE.key: _pin(quality)})
    cell_of(title, target).want()
    transaction.on_commit(lambda: find_rate_task.enqueue(title.pk, target.pk, wanted, quality))
    return changed


def find_rate_now(title_id: int, target_id: int, wanted: float, quality: int) -> None:
    """Measure the quality that was pinned, and pin a nearer one, until none is; as long as somebody waits and nobody
    sets something else.
    """
    if (rows := rows_still_there(title_id, target_id)) is None:
        return
    with (
        contextlib.suppress(Stopped, BadPin, PlanError),
        awaited(),
        tempfile.TemporaryDirectory(prefix="rheon-") as work,
    ):
        _search(*rows, wanted, quality, Path(work))


def _search(title: Title, target: Target, wanted: float, quality: int, work: Path) -> None:
    search: RateSearch | None = None
    while (tried := _try(title, target, quality, work)) is not None:
        cell, score = tried
        search = search or RateSearch(
            wanted=wanted, near=NEAR[score.model is not None], points=_measured_points(cell, but=BY_HAND)
        )
        following = search.after(quality, score.mean)
        if following == quality or not _pin_instead(title, target, quality, following) or following in search.tried:
            return
        quality = following
        cell_of(title, target).want()


def _try(title: Title, target: Target, quality: int, work: Path) -> tuple[Cell, Fidelity] | None:
    """Measure a quality; ``None`` where it is not what is pinned, or nothing came of it. Raises ``Stopped``."""
    cell = cell_of(title, target)
    made = cell.ways.get(BY_HAND)
    if made is None or made.video.quality != quality:
        return None
    core = title.readable_title()
    try:
        for turn in range(made.turns):
            measure_step(cell, core, (BY_HAND, turn), work)
    finally:
        cell.wish.unlink(missing_ok=True)
    point = points_of(cell, findings_of(cell)).get(BY_HAND)
    return None if point is None else (cell, point.score)


def _pin_instead(title: Title, target: Target, quality: int, following: int) -> bool:
    """Pin another quality, unless somebody has set something else meanwhile."""
    with transaction.atomic():
        row = stored_override(title.pk, target.pk)
        if row is None or row.pins.get(RATE.key) != _pin(quality):
            return False
        change_override(title, target, None, {RATE.key: _pin(following)})
        return True


def _pin(quality: int) -> str:
    return f"{QUALITY}:{quality}"


def _measured_points(cell: Cell, but: Way | None = None) -> list[tuple[int, float]]:
    """(quality, mean) of what was measured in the planned size, leaving one way out."""
    known = points_of(cell, findings_of(cell))
    return [
        (quality, point.score.mean)
        for way, point in known.items()
        if not way.step and way != but and (quality := cell.ways[way].video.quality) is not None
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
