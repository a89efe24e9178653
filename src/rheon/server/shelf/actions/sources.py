"""Adding, reading, stopping and removing sources."""

from __future__ import annotations

import logging

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from rheon.core.engine import is_alive, process_identity
from rheon.core.errors import RheonError, SourceError, Stopped
from rheon.core.media import Source as CoreSource
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump
from rheon.core.media.names import display_name
from rheon.core.media.sentences import sentence
from rheon.core.sources import ScanProgress, read_source

from ..folders import inside, with_contents_inside
from ..models import Source, SourceState, Title
from ..names import title_names
from ..signals import source_read

log = logging.getLogger("rheon")


def add_source(path: str) -> Source:
    """Take a source onto the shelf and have it read. Raises ``OutsideFolders`` or ``SourceError``."""
    resolved = inside(path)
    if not resolved.exists():
        raise SourceError(f"There is nothing at {resolved.name}.", advice="Choose it again.")
    source, new = Source.objects.get_or_create(path=str(resolved), defaults={"name": display_name(resolved.stem)})
    if new or source.state in (SourceState.FAILED, SourceState.STOPPED):
        read_again(source)
    return source


def read_again(source: Source) -> None:
    """Queue a source for reading."""
    from ..tasks import read_source_task  # noqa: PLC0415 - tasks call these actions

    _update(
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


def request_stop(source: Source) -> None:
    """Stop the reading of a source, now where it only waits."""
    waiting = Source.objects.filter(pk=source.pk, state=SourceState.WAITING)
    if not _update(waiting, state=SourceState.STOPPED):
        _update(Source.objects.filter(pk=source.pk, state=SourceState.READING), stop_requested=True)


def remove_source(source: Source) -> None:
    """Forget a source; its media stay where they are."""
    source.delete()


def read_now(source_id: int) -> None:
    """Read a source and store its titles; whatever goes wrong is stored with it."""
    waiting = Source.objects.filter(pk=source_id, state=SourceState.WAITING)
    claimed = _update(waiting, state=SourceState.READING, worker=process_identity())
    if not claimed:
        return
    source = Source.objects.get(pk=source_id)
    try:
        found = read_source(with_contents_inside(source.path), _progress(source_id))
    except Stopped:
        _update(Source.objects.filter(pk=source_id), state=SourceState.STOPPED)
    except RheonError as error:
        _failed(source_id, error.code, error.message)
    except Exception:
        log.exception("reading %s failed", source.path)
        _failed(source_id, "unforeseen", "Reading stopped on something unforeseen. The log says more.")
    else:
        store(source, found)


def store(source: Source, found: CoreSource) -> None:
    """Store what a scan found and tell the other places."""
    with transaction.atomic():
        _store_titles(source, found)
        source.label, source.kind, source.form = found.label, found.kind.value, found.form.value
        source.name = display_name(found.label)
        source.size_bytes = found.size_bytes
        source.problems = [dump(problem) for problem in found.problems]
        source.state, source.at_title, source.title_count = SourceState.READY, len(found.titles), len(found.titles)
        source.save()
        source_read.send(sender=Source, source=source)


def recover() -> int:
    """Mark what a worker that is gone was reading as stopped; returns how many sources that were."""
    count = 0
    for source in Source.objects.filter(state=SourceState.READING):
        if not is_alive(source.worker):
            source.state = SourceState.STOPPED
            source.save(update_fields=["state", "changed"])
            count += 1
    return count


def _progress(source_id: int) -> ScanProgress:
    row = Source.objects.filter(pk=source_id)

    def on_title(number: int, total: int) -> None:
        _update(row, at_title=number, title_count=total)

    return ScanProgress(on_title=on_title, should_stop=lambda: row.filter(stop_requested=True).exists())


def _failed(source_id: int, code: str, message: str) -> None:
    row = Source.objects.filter(pk=source_id)
    _update(row, state=SourceState.FAILED, error_code=code, error_message=message)


def _update(rows: QuerySet[Source], **facts: object) -> int:
    """Change rows and note when: open pages tell by it that there is something to read."""
    return rows.update(changed=timezone.now(), **facts)


def _store_titles(source: Source, found: CoreSource) -> None:
    names = title_names(found.label, found.titles)
    kept = {title.number for title in found.titles}
    source.titles.exclude(number__in=kept).delete()
    for title in found.titles:
        Title.objects.update_or_create(
            source=source,
            number=title.number,
            defaults={
                "name": names[title.number][:220],
                "duration_s": title.duration_s,
                "role": title.role.value,
                "document": dump(title),
                "outline": outline(title),
            },
        )


def outline(title: CoreTitle) -> dict[str, object]:
    """What a length strip shows: all but the name."""
    return {
        "size_bytes": title.size_bytes,
        "chapters": [chapter.start_s for chapter in title.chapters],
        "reason": "; ".join(map(sentence, title.reasons)),
        "shares": [{"title": s.title, "from_s": s.from_s, "to_s": s.to_s} for s in title.shares],
        "fault": title.fault,
    }
