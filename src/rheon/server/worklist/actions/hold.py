"""Whether anything on the list may begin."""

from __future__ import annotations

from django.db import transaction

from ..models import Job, JobState, Pace
from ..tasks import run_jobs_task
from .change import go_on, pause


def is_held() -> bool:
    return Pace.objects.filter(held=True).exists()


def hold(*, pausing: bool = False) -> None:
    """Let nothing more begin; what is being made comes to its end, or stands still too (``pausing``)."""
    with transaction.atomic():
        Pace.objects.update_or_create(pk=1, defaults={"held": True})
        if pausing:
            pause(list(Job.objects.filter(state=JobState.RUNNING).values_list("pk", flat=True)))


def let_go() -> None:
    """Go on with the list, and with what stood still in its making."""
    with transaction.atomic():
        Pace.objects.update_or_create(pk=1, defaults={"held": False})
        go_on(list(Job.objects.filter(state=JobState.PAUSED).exclude(worker="").values_list("pk", flat=True)))
        transaction.on_commit(run_jobs_task.enqueue)
