"""Background work of the Worklist."""

from django_tasks import task

from .actions.run import run_all


@task(queue_name="convert")
def run_jobs_task() -> None:
    """A hint that something waits: every job that does is carried out, in their order then."""
    run_all()
