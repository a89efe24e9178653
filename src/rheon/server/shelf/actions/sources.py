"""Adding, naming, stopping, finding again and removing sources."""

from __future__ import annotations

import os
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from rheon.core.errors import SourceError, SourceMissing
from rheon.core.naming.names import display_name
from rheon.core.system import is_there, path_text, shown, text_path

from ..folders import inside
from ..models import Source, SourceState
from ..signals import source_leaves
from ..tasks import read_source_task

SEARCH_DEPTH, MOST_FOLDERS = 4, 20_000


def add_source(path: str, *, drive: int | None = None, only_new: bool = False) -> Source:
    """Take a source onto the shelf and have it read, ``only_new`` where it is not there yet.

    Raises ``OutsideFolders`` or ``SourceError``.
    """
    resolved = inside(path)
    if not is_there(resolved):
        raise SourceError("There is nothing at {name}.", name=shown(resolved.name), advice="Choose it again.")
    defaults = {"name": display_name(shown(resolved.stem))[:200], "drive": drive}
    source, new = Source.objects.get_or_create(path=path_text(str(resolved)), defaults=defaults)
    if not new and only_new:
        return source
    if drive != source.drive:
        source.drive = drive
        source.save(update_fields=["drive", "changed"])
    if new or source.state in (SourceState.FAILED, SourceState.STOPPED, SourceState.MISSING):
        read_again(source)
    return source


def read_again(source: Source) -> None:
    """Queue a source for reading."""
    update(
        Source.objects.filter(pk=source.pk),
        state=SourceState.WAITING,
        stop_requested=False,
        error_code="",
        error_message="",
        at_title=0,
        title_count=0,
    )
    source.refresh_from_db()
    transaction.on_commit(lambda: read_source_task.enqueue(source.pk))


def rename_source(source: Source, name: str) -> None:
    """Call a source by another name; an empty one gives it its own back."""
    wanted = name.strip()
    source.named_by_hand = bool(wanted)
    source.name = (wanted or display_name(source.label or shown(Path(text_path(source.path)).stem)))[:200]
    source.save(update_fields=["name", "named_by_hand", "changed"])


def request_stop(source: Source) -> None:
    """Stop the reading of a source, now where it only waits."""
    waiting = Source.objects.filter(pk=source.pk, state=SourceState.WAITING)
    if not update(waiting, state=SourceState.STOPPED):
        update(Source.objects.filter(pk=source.pk, state=SourceState.READING), stop_requested=True)


def remove_source(source: Source) -> None:
    """Forget a source; its media stay where they are, and joins that had a part on it say that it is missing."""
    with transaction.atomic():
        source_leaves.send(sender=Source, source=source)
        source.delete()


def find_again(source: Source) -> None:
    """Look for a source that has moved by its name in the media folders. Raises ``SourceMissing``."""
    path = Path(text_path(source.path))
    if not is_there(path):
        found = _by_name(path.name)
        if found is None:
            raise SourceMissing(
                "Nothing called {name} is in the media folders.",
                name=shown(path.name),
                advice="Add it from its new place; what was set by hand comes back with it.",
            )
        Source.objects.filter(path=path_text(str(found))).exclude(pk=source.pk).delete()
        source.path = path_text(str(found))
        source.save(update_fields=["path", "changed"])
    read_again(source)


def _by_name(name: str) -> Path | None:
    count = 0
    for root in settings.RHEON_MEDIA_FOLDERS:
        for place, folders, files in os.walk(root):
            count += 1
            if name in folders or name in files:
                return inside(path_text(str(Path(place) / name)))
            deep = len(Path(place).relative_to(root).parts) >= SEARCH_DEPTH
            folders[:] = [] if deep or count > MOST_FOLDERS else [f for f in folders if not f.startswith(".")]
    return None


def update(rows: QuerySet[Source], **facts: object) -> int:
    """Change rows and note when: open pages tell by it that there is something to read."""
    return rows.update(changed=timezone.now(), **facts)
