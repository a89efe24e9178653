"""Background work of the Worklist."""

from django_tasks import task

from rheon.server.work import Work

run_jobs = Work()


@task(queue_name="convert")
def run_jobs_task() -> None:
    """A hint that something waits: every job that does is carried out, in their order then."""
    run_jobs()
