"""Settling what a minute to try holds: the stretch of a title that asks most of its plan."""

from __future__ import annotations

from dataclasses import replace

from rheon.core.analysis import Demand, most_demanding
from rheon.core.encoding import Hooks
from rheon.core.errors import EngineError
from rheon.core.media import KeptRange, mark_of
from rheon.core.media.documents import dump, load
from rheon.core.planning import MINUTE_S, minute_plan, minute_request, minute_within, plan
from rheon.server.bench.planning import cut_places
from rheon.server.shelf.actions.cache import material_mark
from rheon.server.shelf.actions.finding_out import find_out
from rheon.server.shelf.models import Finding, Title

from .models import Job
from .settling import go_on_with, looking, settle


def settle_minute(job: Job, hooks: Hooks) -> None:
    """Have the plan settled, find its most demanding minute, and plan that; a title that is gone keeps its middle one.

    Raises ``PlanError`` or ``BadPin`` where nothing can be made, ``EngineError`` or ``Stopped``.
    """
    settle(job)
    request = job.core_request()
    title = Title.objects.select_related("source").filter(jobs=job).first()
    if request is None or title is None:
        return
    whole = plan(request)
    stretch, times_mean = None, 1.0
    if whole.settings is not None and (within := minute_within(request.title, whole.settings)):
        with looking(job):
            demand = _most_demanding(title, within, hooks, seen=whole.settings.video is not None)
        stretch, times_mean = demand.stretch, demand.times_mean
    wanted = minute_request(request, whole, stretch)
    places = cut_places(title, wanted.title, wanted.pins)
    made = minute_plan(replace(wanted, copy_ranges=places.copies), whole, times_mean)
    if made.settings is not None:
        go_on_with(job, made, duration_s=made.settings.duration_s)


def _most_demanding(title: Title, within: tuple[KeptRange, ...], hooks: Hooks, *, seen: bool) -> Demand:
    """Found out once for the same material and kept stretches; where no picture is ``seen``, none is looked at."""
    core = title.readable_title()
    if not seen:
        return most_demanding(replace(core, video=None), within, MINUTE_S)
    mark = f"minute-{mark_of(material_mark(title), within, MINUTE_S)}"[:40]

    def look() -> dict[str, object]:
        found: dict[str, object] = dump(most_demanding(core, within, MINUTE_S, hooks.should_stop))
        return found

    find_out(mark, look)
    document = Finding.objects.get(mark=mark).document
    if "failed" in document:
        raise EngineError("The pictures could not be looked at for the minute that asks most of the plan.")
    return load(Demand, document)
