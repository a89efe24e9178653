"""Background work of the Outbox: what somebody waits for, and on a queue of their own the copies onto devices."""

from django_tasks import task

from rheon.server.work import Work

write_tags = Work()
hand_over = Work()
look_through_library = Work()


# somebody waits for it
@task(queue_name="quick", priority=55)
def write_tags_task(output_id: int) -> None:
    write_tags(output_id)


@task(queue_name="quick", priority=-20)
def look_through_library_task() -> None:
    look_through_library()


@task(queue_name="copy")
def hand_over_task() -> None:
    """A hint that something waits: every copy whose device is there is made, in their order then."""
    hand_over()
