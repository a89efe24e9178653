"""Background work of the Shelf, on the queue that never waits behind a conversion."""

from django_tasks import task

from .actions.samples import sample_title
from .actions.sources import read_now


# somebody waits for a scan; samples only make estimates surer
@task(queue_name="quick", priority=50)
def read_source_task(source_id: int) -> None:
    read_now(source_id)


@task(queue_name="quick", priority=-50)
def sample_title_task(title_id: int) -> None:
    sample_title(title_id)
