"""Picking titles."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from rheon.core.media import Role
from rheon.server.shelf.models import Source, Title
from rheon.server.shelf.tasks import sample_title_task

from ..models import Pick

PROPOSED = (Role.FEATURE.value, Role.EPISODE.value)


def propose(source: Source) -> None:
    """Pick the film or the episodes of a source that nothing was picked of yet."""
    if Pick.objects.filter(title__source=source).exists():
        return
    titles = source.titles.filter(role__in=PROPOSED)
    set_picked([title.pk for title in titles if not title.outline.get("fault")], picked=True)


def set_picked(title_ids: Sequence[int], *, picked: bool) -> None:
    """Pick titles or put them back; unknown ones are passed over. What is picked gets sampled."""
    if not picked:
        Pick.objects.filter(title_id__in=title_ids).delete()
        return
    titles = Title.objects.filter(pk__in=title_ids)
    Pick.objects.bulk_create([Pick(title=title) for title in titles], ignore_conflicts=True)
    for title in titles.filter(samples__isnull=True):
        transaction.on_commit(lambda pk=title.pk: sample_title_task.enqueue(pk))  # type: ignore[misc]
