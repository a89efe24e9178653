"""Files made of titles: by a plan, or as faithful copies, which are plans that keep everything."""

from __future__ import annotations

import functools
from pathlib import Path

from pydantic import ValidationError

from rheon.core.delivery import Delivered, Order, convert, take_up
from rheon.core.encoding import Hooks, ProgressUnit
from rheon.core.engine import steered
from rheon.core.errors import PlanError
from rheon.core.media.documents import load
from rheon.core.planning import Plan
from rheon.core.wording import sentence
from rheon.server.home.actions.hardware import trust
from rheon.server.shelf.folders import data_inside

from ..minute import settle_minute
from ..models import Job, JobKind
from ..settling import fall_back, settle
from .kind import Finished, Note


class Making:
    """A title becomes a file."""

    unit = ProgressUnit.SECONDS

    def __init__(self, name: JobKind) -> None:
        self.name = name

    def run(self, job: Job, hooks: Hooks, note: Note) -> Finished:
        with steered(hooks.should_stop, hooks.clock.is_paused):
            self.settle(job, hooks)
        made = convert(_order(job), hooks, note, functools.partial(fall_back, job))
        if made.told:
            job.own_row().update(note=sentence(made.told)[:300])
        settings = _plan_of(job).settings
        if settings and settings.video and settings.video.device:
            trust(settings.video.encoder or "")
        return made

    def settle(self, job: Job, hooks: Hooks) -> None:
        """Have the job's plan rest on what is known when it begins."""
        settle(job)

    def take_up(self, job: Job) -> Finished | None:
        if not job.delivery_document:
            return None
        return take_up(_order(job), load(Delivered, job.delivery_document))

    def whole(self, duration_s: float, size_bytes: int) -> float:
        return duration_s


class Sampling(Making):
    """The most demanding minute of a title, as the whole file will be, to be tried on the device."""

    def __init__(self) -> None:
        super().__init__(JobKind.SAMPLE)

    def settle(self, job: Job, hooks: Hooks) -> None:
        settle_minute(job, hooks)


def _order(job: Job) -> Order:
    """Raises ``OutsideFolders`` or ``PlanError``."""
    return Order(
        title=data_inside(job.core_title()),
        plan=_plan_of(job),
        accept_loss=job.accept_loss,
        devices=job.core_devices(),
        folder=Path(job.folder),
        token=job.token,
        made_for=" and ".join(job.device_names),
    )


def _plan_of(job: Job) -> Plan:
    """Raises ``PlanError`` for a job that was queued before plans became what they are now."""
    try:
        return job.core_plan()
    except ValidationError as error:
        raise PlanError("This job is from an older Rheon.", advice="Convert the title again from the Bench.") from error
