"""The queue holds hints; what is to be done stands in the rows of sources, titles and jobs.

A hint can be lost with the process that meant to give it, or that had taken it: the queue is made again from the rows.
"""

from __future__ import annotations

import logging
from collections.abc import Iterator
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from django_tasks.base import Task
from django_tasks_db.models import DBTaskResult

from rheon.core.devices import CLIPS
from rheon.core.system import is_elsewhere, may_be_in_use
from rheon.server.bench.tasks import measure_hardware_task
from rheon.server.home.hardware import is_tried, unmeasured
from rheon.server.home.tasks import look_for_hardware_task
from rheon.server.household.actions.pairing import pairing
from rheon.server.household.clips import clip_path
from rheon.server.household.tasks import make_clips_task
from rheon.server.outbox.actions.handover import may_go_on
from rheon.server.outbox.actions.library import give_up_look, library_look
from rheon.server.outbox.models import Output
from rheon.server.outbox.tasks import hand_over_task, look_through_library_task, write_tags_task
from rheon.server.shelf.actions.sources import update
from rheon.server.shelf.actions.surveys import LATER, unlooked
from rheon.server.shelf.models import FilmFolder, Source, SourceState, Title
from rheon.server.shelf.tasks import look_through_task, read_source_task, sample_title_task, survey_title_task
from rheon.server.worklist.pace import may_begin
from rheon.server.worklist.room import that_may_begin
from rheon.server.worklist.tasks import run_jobs_task

log = logging.getLogger("rheon")
MOST_ATTEMPTS = 3
KEPT_FOR, LONGEST = timedelta(hours=1), timedelta(days=2)
UNREADABLE = "The worker was ended each time that it read this. The machine may be short of memory."

Hint = tuple[Task[Any, Any], tuple[int, ...]]


def renew() -> int:
    """Put back what dead workers had taken, and give every hint that is missing; returns how many were given."""
    with transaction.atomic():
        _put_back()
        given = DBTaskResult.objects.filter(status__in=("READY", "RUNNING"))
        known = {
            (path, tuple(said["args"]))
            for path, said, workers in given.values_list("task_path", "args_kwargs", "worker_ids")
            # what another machine has taken is no hint for this one
            if not (workers and is_elsewhere(workers[-1]))
        }
        missing = [(task, args) for task, args in _wanted() if (task.module_path, args) not in known]
        for task, args in missing:
            task.enqueue(*args)
    return len(missing)


def forget_old() -> int:
    """Remove hints that were followed long ago, and those that a machine took which was not heard of since."""
    done = Q(status__in=("SUCCESSFUL", "FAILED"), finished_at__lt=timezone.now() - KEPT_FOR)
    long_gone = Q(status="RUNNING", started_at__lt=timezone.now() - LONGEST)
    old = DBTaskResult.objects.filter(done | long_gone).only("pk", "status", "worker_ids")
    gone = [row.pk for row in old if row.status != "RUNNING" or (row.worker_ids and is_elsewhere(row.worker_ids[-1]))]
    return DBTaskResult.objects.filter(pk__in=gone).delete()[0]


def _wanted() -> Iterator[Hint]:
    if may_begin() and next(that_may_begin(), None) is not None:
        yield run_jobs_task, ()
    for pk in FilmFolder.objects.filter(looked__isnull=True).values_list("pk", flat=True):
        yield look_through_task, (pk,)
    for pk in Source.objects.filter(state=SourceState.WAITING).values_list("pk", flat=True):
        yield read_source_task, (pk,)
    unsampled = Title.objects.filter(pick__isnull=False, samples__isnull=True, samples_failed=False)
    for title in unsampled.only("pk", "outline"):
        if not title.outline.get("fault"):
            yield sample_title_task, (title.pk,)
    for title in unlooked().filter(source__state=SourceState.READY).only("pk", "outline"):
        if not title.outline.get("fault"):
            yield survey_title_task.using(priority=LATER), (title.pk,)
    if not is_tried():
        yield look_for_hardware_task, ()
    elif unmeasured() and Title.objects.filter(survey__isnull=False).exists():
        yield measure_hardware_task, ()
    if pairing().is_open and not all(clip_path(clip).exists() for clip in CLIPS):
        yield make_clips_task, ()
    yield from _wanted_of_outbox()


def _wanted_of_outbox() -> Iterator[Hint]:
    for pk in Output.objects.filter(tags_wanted__isnull=False).values_list("pk", flat=True):
        yield write_tags_task, (pk,)
    if may_go_on():
        yield hand_over_task, ()
    if library_look().wanted:
        yield look_through_library_task, ()


def _put_back() -> None:
    """What a dead worker had taken waits again, unless it has been the end of several workers."""
    for row in DBTaskResult.objects.filter(status="RUNNING"):
        if row.worker_ids and may_be_in_use(row.worker_ids[-1]):
            continue
        if len(row.worker_ids) < MOST_ATTEMPTS:
            DBTaskResult.objects.filter(pk=row.pk, status="RUNNING").update(status="READY")
            continue
        log.error("%s %s ended %d workers", row.task_path, row.args_kwargs["args"], len(row.worker_ids))
        _give_up(row.task_path, row.args_kwargs["args"])
        row.delete()


def _give_up(task_path: str, args: list[int]) -> None:
    """Note with the row itself that it is not to be tried again."""
    if task_path == read_source_task.module_path:
        facts = {"state": SourceState.FAILED, "error_code": "interrupted", "error_message": UNREADABLE}
        update(Source.objects.filter(pk=args[0]), **facts)
    elif task_path == look_through_task.module_path:
        FilmFolder.objects.filter(pk=args[0]).update(looked=timezone.now())
    elif task_path == look_through_library_task.module_path:
        give_up_look()
    elif task_path == sample_title_task.module_path:
        Title.objects.filter(pk=args[0]).update(samples_failed=True)
    elif task_path == survey_title_task.module_path:
        Title.objects.filter(pk=args[0]).update(survey_failed=True)
