"""Carrying out the next job that waits."""

from __future__ import annotations

import logging
import time
from pathlib import Path

from django.utils import timezone
from pydantic import ValidationError

from rheon.core.delivery import Delivered, DiscCopied, DiscOrder, Order, convert, copy_disc
from rheon.core.encoding import Hooks, Progress
from rheon.core.engine import process_identity
from rheon.core.errors import PlanError, RheonError, Stopped
from rheon.core.media.names import safe_stem
from rheon.core.planning import Plan
from rheon.server.shelf.folders import data_inside, with_contents_inside

from ..models import Job, JobState
from ..signals import job_delivered
from .settle import settle

log = logging.getLogger("rheon")
TELL_EVERY_S = 0.4
UNFORESEEN = "It stopped on something unforeseen. Try again; the log says more."


def run_next() -> None:
    """Claim the first job that waits, and carry it out; whatever goes wrong is stored with it."""
    job = _claim()
    if job is None:
        return
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
        _end(job, JobState.DONE, fraction=1.0, written_bytes=delivered.size_bytes)
        job_delivered.send(sender=Job, job=job, delivered=delivered)


def _claim() -> Job | None:
    for job in Job.objects.filter(state=JobState.WAITING).order_by("position", "id")[:5]:
        claimed = Job.objects.filter(pk=job.pk, state=JobState.WAITING).update(
            state=JobState.RUNNING, worker=process_identity(), started=timezone.now(), stage="making"
        )
        if claimed:
            job.refresh_from_db()
            return job
    return None


def _carry_out(job: Job) -> Delivered | DiscCopied:
    folder = Path(job.folder)
    folder.mkdir(parents=True, exist_ok=True)
    if job.disc_path:
        disc = with_contents_inside(job.disc_path)
        name = safe_stem(job.title_name, "posix")
        return copy_disc(DiscOrder(source=disc, folder=folder, name=name, token=job.token), _hooks(job))
    settle(job)
    order = Order(
        title=data_inside(job.core_title()),
        plan=_plan_of(job),
        accept_loss=job.accept_loss,
        devices=job.core_devices(),
        folder=folder,
        token=job.token,
    )
    return convert(order, _hooks(job))


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
