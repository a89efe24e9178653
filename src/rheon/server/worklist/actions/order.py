"""In which order jobs that nobody has begun are made."""

from __future__ import annotations

from collections.abc import Collection

from django.db import transaction

from ..models import AT_REST, Job


def move_jobs(job_ids: Collection[int], before: int | None) -> None:
    """Put jobs that wait before another one that does, or last (``None``); among themselves they keep their order.

    Where the other one does not wait any more, it was the first: they are the next.
    """
    with transaction.atomic():
        waiting = list(Job.objects.filter(AT_REST).order_by("position", "id"))
        moved = [job for job in waiting if job.pk in job_ids]
        stay = [job for job in waiting if job.pk not in job_ids]
        at = len(stay) if before is None else _place(waiting, job_ids, before)
        changed = []
        for position, job in enumerate([*stay[:at], *moved, *stay[at:]], start=1):
            if job.position != position:
                job.position = position
                changed.append(job)
        Job.objects.bulk_update(changed, ["position"], batch_size=200)


def _place(waiting: list[Job], job_ids: Collection[int], before: int) -> int:
    """How many of those that stay come before it; one that moves itself stands for what follows it."""
    ahead = 0
    for job in waiting:
        if job.pk == before:
            return ahead
        ahead += job.pk not in job_ids
    return 0
