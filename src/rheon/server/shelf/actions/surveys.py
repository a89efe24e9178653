"""Having titles looked at in the background: borders, interlacing, loudness, forced lines."""

from __future__ import annotations

import logging

from django.db import transaction
from django.db.models import QuerySet

from rheon.core.analysis import fingerprint, survey_title
from rheon.core.errors import RheonError, Stopped
from rheon.core.media import Role
from rheon.core.media.documents import dump

from ..models import Source, Title
from ..tasks import survey_title_task
from .finding_out import known
from .sources import update

LATER = -80
log = logging.getLogger("rheon")
WORTH_A_LOOK = (Role.FEATURE.value, Role.EPISODE.value, Role.PLAY_ALL.value)


def ask_for_surveys(source: Source) -> None:
    """Have what matters on a source looked at, later and behind everything else."""
    for title in unlooked().filter(source=source):
        if not title.outline.get("fault"):
            ask_for_survey(title, priority=LATER)


def unlooked() -> QuerySet[Title]:
    """The titles worth a look that nobody has looked at yet."""
    return Title.objects.filter(survey__isnull=True, survey_failed=False, role__in=WORTH_A_LOOK)


def ask_for_survey(title: Title, *, priority: int) -> None:
    transaction.on_commit(lambda: survey_title_task.using(priority=priority).enqueue(title.pk))


def survey_now(title_id: int) -> None:
    """Look at a title once; what is known of the same material is taken over. Raises ``Stopped``."""
    title = Title.objects.select_related("source").filter(pk=title_id, survey__isnull=True).first()
    if title is None or title.outline.get("fault"):
        return
    try:
        core = title.readable_title()
        document = known(fingerprint(core), lambda: dump(survey_title(core)))
    except Stopped:
        raise
    except (RheonError, OSError) as error:
        log.warning("could not look at title %s: %s", title_id, error)
        Title.objects.filter(pk=title_id).update(survey_failed=True)
    else:
        Title.objects.filter(pk=title_id).update(survey=document)
    update(Source.objects.filter(pk=title.source_id))
