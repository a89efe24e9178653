"""Who does the Shelf's work."""

from django.dispatch import receiver

from . import tasks
from .actions.artwork import find_stills
from .actions.chapters import make_chapters
from .actions.film_folders import look_through
from .actions.joins import lose_parts
from .actions.levels import hear_levels
from .actions.looking import look_over
from .actions.proposing import find_proposals
from .actions.reading import read_now
from .actions.samples import sample_title
from .actions.surveys import survey_now
from .models import FilmFolder, Source
from .signals import source_leaves


def _look_through(folder_id: int) -> None:
    if row := FilmFolder.objects.filter(pk=folder_id).first():
        look_through(row)


@receiver(source_leaves)
def joins_lose_a_part(sender: object, source: Source, **kwargs: object) -> None:
    lose_parts(source)


tasks.read_source.is_done_by(read_now)
tasks.sample_title.is_done_by(sample_title)
tasks.survey_title.is_done_by(survey_now)
tasks.look_over.is_done_by(look_over)
tasks.look_through.is_done_by(_look_through)
tasks.find_proposals.is_done_by(find_proposals)
tasks.hear_levels.is_done_by(hear_levels)
tasks.make_chapters.is_done_by(make_chapters)
tasks.find_stills.is_done_by(find_stills)
