"""Reading sources and storing what was found, without losing what people set by hand."""

from __future__ import annotations

import hashlib
import logging
from dataclasses import replace
from pathlib import Path

from django.db import transaction
from django.db.models import QuerySet

from rheon.core.chapters import plain
from rheon.core.errors import NoSuchTitle, RheonError, Stopped
from rheon.core.media import FileData, Role
from rheon.core.media import Source as CoreSource
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump
from rheon.core.naming.names import display_name
from rheon.core.naming.titles import title_names
from rheon.core.sources import ChapterRange, ScanProgress, cut, part_number, read_source
from rheon.core.system import is_there, shown, text_path
from rheon.server.claims import Claims

from ..folders import inside
from ..models import Source, SourceState, Title
from ..outlines import outline_of
from ..signals import source_read
from .joins import make_again
from .sources import update
from .surveys import ask_for_surveys
from .tags import propose_tags

log = logging.getLogger("rheon")
in_hand = Claims(Source.objects.all)


def read_now(source_id: int) -> None:
    """Read a source and store its titles; whatever goes wrong is stored with it."""

    def claim() -> int | None:
        waiting = Source.objects.filter(pk=source_id, state=SourceState.WAITING)
        return source_id if update(waiting, state=SourceState.READING, **Claims.mine()) else None

    with in_hand.holding(claim) as claimed:
        if claimed is not None:
            _read(claimed)


def _read(source_id: int) -> None:
    source = Source.objects.get(pk=source_id)
    try:
        found = read_source(inside(source.path), _progress(source))
    except Stopped:
        update(_own_row(source), state=SourceState.STOPPED)
    except RheonError as error:
        _failed(source, error.code, error.message)
    except Exception:
        log.exception("reading %s failed", source.path)
        _failed(source, "unforeseen", "Reading stopped on something unforeseen. The log says more.")
    else:
        store(source, found)


def store(source: Source, found: CoreSource) -> None:
    """Store what a scan found and tell the other places."""
    mark = content_mark(found)
    with transaction.atomic():
        # taken off the Shelf while it was read: saving its row would bring it back
        if not Source.objects.filter(pk=source.pk).exists():
            return
        source = _moved_from(source, mark)
        found_titles = with_parts(source, found)
        _store_titles(source, found_titles)
        source.label, source.kind, source.form = shown(found.label)[:200], found.kind.value, found.form.value
        if not source.named_by_hand:
            source.name = display_name(shown(found.label))[:200]
        source.size_bytes = found.size_bytes
        source.problems = [dump(problem) for problem in found.problems]
        source.state, source.at_title, source.title_count = SourceState.READY, len(found.titles), len(found.titles)
        source.mark, source.stamp = mark, files_stamp(found)
        source.save()
        propose_tags(source, found_titles.titles)
        source_read.send(sender=Source, source=source)
        ask_for_surveys(source)
    # parts are looked at for it, which takes too long for a transaction
    make_again(source)


def recover() -> int:
    """Let every source wait again that is marked as being read and that nobody reads; returns how many."""
    lost = [row for row in Source.objects.filter(state=SourceState.READING) if in_hand.is_lost(row.pk, row.lease)]
    for source in lost:
        state = SourceState.STOPPED if source.stop_requested else SourceState.WAITING
        update(Source.objects.filter(pk=source.pk, state=SourceState.READING), state=state)
    return len(lost)


def content_mark(found: CoreSource) -> str:
    """The same for the same content wherever it lies."""
    parts = [f"{title.key}|{title.duration_s:.3f}|{title.size_bytes}" for title in found.titles]
    return hashlib.sha256("\n".join([found.kind.value, found.label, *parts]).encode()).hexdigest()


def files_stamp(found: CoreSource) -> str:
    """Changes when any of the files behind the titles does."""
    return stamp_of(data_paths(title) for title in found.titles)


def data_paths(title: CoreTitle) -> frozenset[str]:
    data = title.data
    own = {data.path} if isinstance(data, FileData) else {extent.path for extent in data.extents}
    return frozenset(own | {track.path for track in title.subtitles if track.path})


def stamp_of(paths: object) -> str:
    """A digest of sizes and times of files; those that are not there count as such."""
    digest = hashlib.sha256()
    for path in sorted({path for some in paths for path in some}):  # type: ignore[attr-defined]
        try:
            said = Path(path).stat()
            digest.update(f"{path}|{said.st_size}|{said.st_mtime_ns}\n".encode(errors="surrogateescape"))
        except OSError:
            digest.update(f"{path}|gone\n".encode(errors="surrogateescape"))
    return digest.hexdigest()


def with_parts(source: Source, found: CoreSource) -> CoreSource:
    """What was found, with the ranges of chapters that somebody made titles in place of those proposed."""
    wanted: dict[str, list[ChapterRange]] = {}
    for part in source.parts.all():
        wanted.setdefault(part.title_key, []).append(ChapterRange(first=part.first, last=part.last))
    if not wanted:
        return found
    by_hand = {row.key: row.chapters_by_hand or () for row in source.titles.exclude(chapters_by_hand=None)}
    whole = {
        title.key: replace(title, chapters=plain(by_hand[title.key])) if title.key in by_hand else title
        for title in found.titles
    }
    cut_by_hand = {whole[key].number for key in wanted if key in whole}
    titles = [
        replace(title, role=Role.PLAY_ALL) if title.number in cut_by_hand else title
        for title in found.titles
        if title.part_of not in cut_by_hand
    ]
    for key, ranges in wanted.items():
        if (title := whole.get(key)) is None:
            continue
        for at, chapters in enumerate(ranges, start=1):
            try:
                titles.append(cut(title, chapters, part_number(title.number, at)))
            except NoSuchTitle as error:
                log.warning("part of %s left out: %s", source.path, error.message)
    return replace(found, titles=tuple(titles))


def _moved_from(source: Source, mark: str) -> Source:
    """The row of a source with the same content that is not where it was: it has moved here, and is kept."""
    for other in Source.objects.filter(mark=mark).exclude(pk=source.pk):
        if not is_there(text_path(other.path)):
            other.path, other.drive = source.path, source.drive
            source.delete()
            return other
    return source


def _own_row(source: Source) -> QuerySet[Source]:
    """The row while this reading holds it; none after it was taken off the Shelf or taken over by another worker."""
    return Source.objects.filter(pk=source.pk, state=SourceState.READING, host=source.host, worker=source.worker)


def _progress(source: Source) -> ScanProgress:
    row = _own_row(source)

    def on_title(number: int, total: int) -> None:
        update(row, at_title=number, title_count=total)

    return ScanProgress(on_title=on_title, should_stop=lambda: not row.filter(stop_requested=False).exists())


def _failed(source: Source, code: str, message: str) -> None:
    update(_own_row(source), state=SourceState.FAILED, error_code=code, error_message=message)


def _store_titles(source: Source, found: CoreSource) -> None:
    names = title_names(found.label, found.titles)
    known = {title.key: title for title in source.titles.all()}
    # read before titles had keys: they are known by their number
    by_number = {title.number: title for key, title in known.items() if key.startswith("number ")}
    source.titles.filter(join__isnull=True).exclude(
        pk__in=[row.pk for title in found.titles if (row := known.get(title.key) or by_number.get(title.number))]
    ).delete()
    for title in found.titles:
        row = known.get(title.key) or by_number.get(title.number) or Title(source=source)
        if row.document and row.document.get("size_bytes") != title.size_bytes:
            row.forget_looks()
        row.key, row.number, row.duration_s = title.key, title.number, title.duration_s
        row.document, row.outline = dump(title), outline_of(title)
        if row.chapters_by_hand is not None:
            row.outline["chapters"] = [start_s for start_s, _ in row.chapters_by_hand]
        if not row.named_by_hand:
            row.name = shown(names[title.number])[:220]
        if not row.role_by_hand:
            row.role = title.role.value
        row.save()
