"""Carrying out the next job that waits."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from concurrent.futures import FIRST_COMPLETED, Future, ThreadPoolExecutor, wait
from pathlib import Path

from django.db import connection, transaction
from django.db.models import F
from django.utils import timezone

from rheon.core.encoding import Hooks
from rheon.core.engine import WorkClock
from rheon.core.errors import EngineKilled, EngineTimedOut, RheonError, Stopped, TargetFull
from rheon.core.media.documents import dump
from rheon.core.system import keep_to_cores, own_token
from rheon.server.claims import Claims
from rheon.server.home.actions.setting_up import keep_pace

from ..course import Course
from ..estimates import times_expected
from ..kinds import KINDS, Finished
from ..machine import MOST_AT_ONCE, bears_another, cores_now
from ..models import Job, JobState
from ..pace import may_begin, may_work, pace
from ..room import needed_bytes, that_may_begin
from ..signals import job_delivered
from .change import begun_anew
from .machine import see_to_strain
from .record import record

log = logging.getLogger("rheon")
ASK_EVERY_S = 0.4
LOOK_EVERY_S = 0.5
MOST_ATTEMPTS = 3
in_hand = Claims(Job.objects.all)
UNFORESEEN = "It stopped on something unforeseen. Try again; the log says more."


def run_all() -> None:
    """Carry out jobs until none waits: as many beside each other, and on as many cores, as is wished just then."""
    with ThreadPoolExecutor(MOST_AT_ONCE, thread_name_prefix="job") as threads:
        under_way: set[Future[None]] = set()
        while True:
            see_to_strain()
            now = pace()
            keep_to_cores(cores_now(now))
            more = len(under_way) < now.at_once and (not under_way or bears_another())
            if more and may_begin() and next(that_may_begin(), None) is not None:
                under_way.add(threads.submit(_run_beside))
            elif not under_way:
                return
            ended, under_way = wait(under_way, timeout=LOOK_EVERY_S, return_when=FIRST_COMPLETED)
            for one in ended:
                one.result()


def _run_beside() -> None:
    try:
        run_next()
    finally:
        connection.close()


def run_next() -> bool:
    """Claim the first job that waits and carry it out; what goes wrong is stored with it.

    False where none waits, or nothing may begin.
    """
    with in_hand.holding(_claim) as claimed:
        if claimed is not None:
            _run(Job.objects.get(pk=claimed))
    return claimed is not None


def _run(job: Job) -> None:
    try:
        delivered = _carry_out(job)
    except Stopped:
        _end(job, JobState.STOPPED)
    except TargetFull as error:
        job.refresh_from_db(fields=["written_bytes"])
        _once_more(job, error, needs_bytes=needed_bytes(job))
    except (EngineKilled, EngineTimedOut) as error:
        _once_more(job, error)
    except RheonError as error:
        _end(job, JobState.FAILED, error_code=error.code, error_message=error.message)
    except Exception:
        log.exception("job %s failed", job.pk)
        _end(job, JobState.FAILED, error_code="unforeseen", error_message=UNFORESEEN)
    else:
        deliver(job, delivered)


def _once_more(job: Job, error: RheonError, **known: object) -> None:
    """Let it wait again in its place, for room, memory or a machine less busy; not for ever, since none may come."""
    job.refresh_from_db(fields=["attempts"])
    if job.attempts >= MOST_ATTEMPTS:
        _end(job, JobState.FAILED, error_code=error.code, error_message=error.message)
        return
    job.own_row().update(**begun_anew(), state=JobState.WAITING, **known)


def deliver(job: Job, delivered: Finished) -> None:
    """The job is done and the Outbox has its file, both or neither."""
    with transaction.atomic():
        made_s = delivered.making_s + delivered.checking_s
        facts = {"fraction": 1.0, "written_bytes": delivered.size_bytes, "made_s": made_s}
        if not _end(job, JobState.DONE, delivered.path.name, **facts, delivery_document=None):
            log.error("job %s was taken over by another worker while it was delivered", job.pk)
            return
        job_delivered.send(sender=Job, job=job, delivered=delivered)
        keep_pace(times_expected())


@transaction.atomic
def _claim() -> int | None:
    """Nobody holds the list back between the look and the claim: they are one."""
    if not may_begin():
        return None
    for pk in that_may_begin():
        claimed = Job.objects.filter(pk=pk, state=JobState.WAITING).update(
            state=JobState.RUNNING,
            **Claims.mine(),
            # its part says whose it is, so that another Rheon that makes files into the same folder leaves it alone
            token=own_token(),
            started=timezone.now(),
            stage="making",
            attempts=F("attempts") + 1,
        )
        if claimed:
            return pk
    return None


def _carry_out(job: Job) -> Finished:
    Path(job.folder).mkdir(parents=True, exist_ok=True)
    should_stop, is_paused = _steered(job)
    hooks = Hooks(on_progress=Course(job).on_progress, should_stop=should_stop, clock=WorkClock(is_paused))
    return KINDS[job.kind].run(job, hooks, lambda noted: _note(job, noted))


def _note(job: Job, noted: Finished) -> None:
    """Raises ``Stopped`` where the job was taken over by another worker meanwhile."""
    if not job.own_row().update(delivery_document=dump(noted)):
        raise Stopped("Another worker has taken this over.")


def _steered(job: Job) -> tuple[Callable[[], bool], Callable[[], bool]]:
    """Whether a job is to stop, and whether it is to stand still: asked of its row now and then."""
    row = job.own_row()
    asked = 0.0
    stop = pause = False

    def ask() -> None:
        nonlocal asked, stop, pause
        if not stop and time.monotonic() - asked >= ASK_EVERY_S:
            asked = time.monotonic()
            state = row.filter(stop_requested=False).values_list("state", flat=True).first()
            stop, pause = state is None, state == JobState.PAUSED or not may_work(pace())

    def should_stop() -> bool:
        ask()
        return stop

    def is_paused() -> bool:
        ask()
        return pause and not stop

    return should_stop, is_paused


def _end(job: Job, state: JobState, file_name: str = "", **facts: object) -> bool:
    """Whether it was this try's to end."""
    with transaction.atomic():
        ended = job.own_row().update(state=state, ended=timezone.now(), stage="", left_s=None, **facts)
        if ended:
            job.refresh_from_db()
            record(job, file_name)
    return bool(ended)
