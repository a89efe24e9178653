"""Background work of the Household."""

from __future__ import annotations

from django_tasks import task

from .clips import make_all


@task(queue_name="quick", priority=-10)
def make_clips_task() -> int:
    """The sample clips for asking a device."""
    return make_all()
