"""Noticing that sources changed or went away since they were read."""

from __future__ import annotations

from django.core.cache import cache

from rheon.core.system import is_there, text_path

from ..models import Source, SourceState, Title
from ..tasks import look_over_task
from .reading import data_paths, stamp_of
from .sources import read_again, update

REST_S = 15


def ask_to_look_over() -> None:
    """Have all sources looked over in the background, unless that was asked for just now."""
    if cache.add("shelf-looked-over", 1, timeout=REST_S):
        look_over_task.enqueue()


def look_over() -> None:
    """Mark sources that are gone, take back those that are there again, and read those whose files changed."""
    settled = (SourceState.READY, SourceState.MISSING)
    for source in Source.objects.filter(state__in=settled):
        there = is_there(text_path(source.path))
        if not there and source.state == SourceState.READY:
            update(Source.objects.filter(pk=source.pk), state=SourceState.MISSING)
        elif there and (source.state == SourceState.MISSING or _changed(source)):
            read_again(source)


def _changed(source: Source) -> bool:
    own = Title.objects.filter(source=source, join__isnull=True)
    paths = (data_paths(title.core_title()) for title in own)
    return bool(source.stamp) and source.stamp != stamp_of(paths)
