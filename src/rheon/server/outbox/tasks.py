"""Background work of the Outbox, on the queue that never waits behind a conversion."""

from django_tasks import task

from rheon.server.work import Work

write_tags = Work()


# somebody waits for it
@task(queue_name="quick", priority=55)
def write_tags_task(output_id: int) -> None:
    write_tags(output_id)
