"""Carrying out the next job that waits."""

from __future__ import annotations

import logging
import time
from pathlib import Path

from django.db import transaction
from django.db.models import F
from django.utils import timezone
from pydantic import ValidationError

from rheon.core.delivery import Delivered, DiscCopied, DiscOrder, Order, convert, copy_disc
from rheon.core.encoding import Hooks, Progress
from rheon.core.errors import PlanError, RheonError, Stopped
from rheon.core.media.documents import dump
from rheon.core.media.names import safe_stem
from rheon.core.planning import Plan
from rheon.core.system import process_identity
from rheon.server.claims import Claims
from rheon.server.shelf.folders import data_inside, inside

from ..models import Job, JobState
from ..signals import job_delivered
from .settle import settle

log = logging.getLogger("rheon")
TELL_EVERY_S = 0.4
in_hand = Claims()
UNFORESEEN = "It stopped on something unforeseen. Try again; the log says more."


def run_all() -> None:
    """Carry out jobs until none waits."""
    while run_next():
        pass


def run_next() -> bool:
    """Claim the first job that waits and carry it out; what goes wrong is stored with it. False where none waits."""
    with in_hand.holding(_claim) as claimed:
        if claimed is not None:
            _run(Job.objects.get(pk=claimed))
    return claimed is not None


def _run(job: Job) -> None:
    try:
        delivered = _carry_out(job)
    except Stopped:
        _end(job, JobState.STOPPED)
    except RheonError as error:
        _end(job, JobState.FAILED, error_code=error.code, error_message=error.message)
    except Exception:
        log.exception("job %s failed", job.pk)
        _end(job, JobState.FAILED, error_code="unforeseen", error_message=UNFORESEEN)
    else:
        deliver(job, delivered)


def deliver(job: Job, delivered: Delivered | DiscCopied) -> None:
    """The job is done and the Outbox has its file, both or neither."""
    with transaction.atomic():
        _end(job, JobState.DONE, fraction=1.0, written_bytes=delivered.size_bytes, delivery_document=None)
        job_delivered.send(sender=Job, job=job, delivered=delivered)


def _claim() -> int | None:
    first = Job.objects.filter(state=JobState.WAITING).order_by("position", "id").values_list("pk", flat=True)
    for pk in first[:5]:
        claimed = Job.objects.filter(pk=pk, state=JobState.WAITING).update(
            state=JobState.RUNNING,
            worker=process_identity(),
            started=timezone.now(),
            stage="making",
            attempts=F("attempts") + 1,
        )
        if claimed:
            return pk
    return None


def _carry_out(job: Job) -> Delivered | DiscCopied:
    Path(job.folder).mkdir(parents=True, exist_ok=True)
    if job.disc_path:
        return copy_disc(copy_order(job), _hooks(job), lambda noted: _note(job, noted))
    settle(job)
    return convert(order_of(job), _hooks(job), lambda noted: _note(job, noted))


def copy_order(job: Job) -> DiscOrder:
    """Raises ``OutsideFolders``."""
    disc = inside(job.disc_path)
    return DiscOrder(source=disc, folder=Path(job.folder), name=safe_stem(job.title_name, "posix"), token=job.token)


def order_of(job: Job) -> Order:
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


def _note(job: Job, noted: Delivered | DiscCopied) -> None:
    Job.objects.filter(pk=job.pk).update(delivery_document=dump(noted))


def _plan_of(job: Job) -> Plan:
    """Raises ``PlanError`` for a job that was queued before plans became what they are now."""
    try:
        return job.core_plan()
    except ValidationError as error:
        raise PlanError("This job is from an older Rheon.", advice="Convert the title again from the Bench.") from error


def _hooks(job: Job) -> Hooks:
    row = Job.objects.filter(pk=job.pk)
    told = asked = 0.0
    stop = False

    def on_progress(step: Progress) -> None:
        nonlocal told
        if time.monotonic() - told < TELL_EVERY_S and step.fraction < 1:
            return
        told = time.monotonic()
        row.update(
            fraction=step.fraction,
            done_s=step.done_s,
            speed=step.speed,
            written_bytes=step.size_bytes,
            left_s=step.left_s,
            stage="checking" if step.fraction >= 1 else "making",
        )

    def should_stop() -> bool:
        nonlocal asked, stop
        if not stop and time.monotonic() - asked >= TELL_EVERY_S:
            asked = time.monotonic()
            stop = not row.filter(stop_requested=False).exists()
        return stop

    return Hooks(on_progress=on_progress, should_stop=should_stop)


def _end(job: Job, state: JobState, **facts: object) -> None:
    Job.objects.filter(pk=job.pk).update(state=state, ended=timezone.now(), stage="", left_s=None, **facts)
    job.refresh_from_db()
