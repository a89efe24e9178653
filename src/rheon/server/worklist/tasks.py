"""Background work of the Worklist."""

from django_tasks import task

from .actions.run import run_next


@task(queue_name="convert")
def run_next_task() -> None:
    """Leave to carry out one job, whichever is first then."""
    run_next()
