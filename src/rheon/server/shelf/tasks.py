"""Background work of the Shelf, on the queue that never waits behind a conversion."""

from django_tasks import task

from .actions.film_folders import look_through
from .actions.looking import look_over
from .actions.reading import read_now
from .actions.samples import sample_title
from .actions.surveys import survey_now
from .models import FilmFolder


# somebody waits for a scan; samples only make estimates surer, and surveys come last
@task(queue_name="quick", priority=50)
def read_source_task(source_id: int) -> None:
    read_now(source_id)


@task(queue_name="quick", priority=-50)
def sample_title_task(title_id: int) -> None:
    sample_title(title_id)


@task(queue_name="quick", priority=-80)
def survey_title_task(title_id: int) -> None:
    survey_now(title_id)


@task(queue_name="quick", priority=20)
def look_over_task() -> None:
    look_over()


@task(queue_name="quick", priority=60)
def look_through_task(folder_id: int) -> None:
    if row := FilmFolder.objects.filter(pk=folder_id).first():
        look_through(row)
