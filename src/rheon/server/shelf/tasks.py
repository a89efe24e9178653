"""Background work of the Shelf, on the queue that never waits behind a conversion."""

from django_tasks import task

from rheon.server.work import Work

read_source, sample_title, survey_title, look_over, look_through = (Work() for _ in range(5))
find_proposals, hear_levels, make_chapters, find_stills = (Work() for _ in range(4))


# somebody waits for a scan; samples only make estimates surer, and surveys come last
@task(queue_name="quick", priority=50)
def read_source_task(source_id: int) -> None:
    read_source(source_id)


@task(queue_name="quick", priority=-50)
def sample_title_task(title_id: int) -> None:
    sample_title(title_id)


@task(queue_name="quick", priority=-80)
def survey_title_task(title_id: int) -> None:
    survey_title(title_id)


@task(queue_name="quick", priority=20)
def look_over_task() -> None:
    look_over()


@task(queue_name="quick", priority=30)
def find_proposals_task(title_id: int) -> None:
    find_proposals(title_id)


@task(queue_name="quick", priority=32)
def hear_levels_task(title_id: int) -> None:
    hear_levels(title_id)


@task(queue_name="quick", priority=32)
def make_chapters_task(title_id: int, every_s: int) -> None:
    make_chapters(title_id, every_s)


@task(queue_name="quick", priority=32)
def find_stills_task(title_id: int) -> None:
    find_stills(title_id)


@task(queue_name="quick", priority=60)
def look_through_task(folder_id: int) -> None:
    look_through(folder_id)
