"""Joins: titles that somebody put together as one. They are made again whenever one of their parts is read again."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace

from django.db import transaction
from django.db.models import Max

from rheon.core.analysis.joining import joined_title
from rheon.core.errors import CantJoin
from rheon.core.media import Role
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump
from rheon.core.media.joining import PartWanted
from rheon.core.naming.names import join_name
from rheon.core.naming.proposing import joined_tags

from ..models import Join, Source, Title
from ..outlines import outline_of
from .sources import update

FIRST_NUMBER = 1_000_000
"""Joins are numbered from there on, above whatever a source numbers its titles."""
PART_MISSING = "part_missing"


def join(titles: Sequence[Title], name: str = "") -> Title:
    """Put titles together as one, in their order. Raises ``CantJoin``."""
    core = _joined(titles)
    named = name.strip()[:220]
    with transaction.atomic():
        row = Title.objects.create(
            key=f"join {uuid.uuid4().hex}",
            source=titles[0].source,
            number=_next_number(),
            name=named,
            named_by_hand=bool(named),
            duration_s=core.duration_s,
            document={},
        )
        Join.objects.create(title=row, members=_members(titles))
        _store(row, core, titles)
    return row


def _next_number() -> int:
    """One that no join has, those between which one was taken apart included."""
    last: int | None = Title.objects.filter(join__isnull=False).aggregate(last=Max("number"))["last"]
    return FIRST_NUMBER if last is None else last + 1


def reorder(row: Title, titles: Sequence[Title]) -> None:
    """Make a join of other titles, or of the same in another order. Raises ``CantJoin``."""
    made = join_of(row)
    core = _joined(titles)
    with transaction.atomic():
        made.members = _members(titles)
        made.save()
        _changed(row)
        row.source, row.chapters_by_hand = titles[0].source, None
        row.forget_looks()
        _store(row, core, titles)


def take_apart(row: Title) -> None:
    """Forget a join; its parts stay. Raises ``CantJoin`` where the title is none."""
    join_of(row)
    with transaction.atomic():
        row.delete()
        _changed(row)


def join_of(row: Title) -> Join:
    """What a title is made of. Raises ``CantJoin`` where it is no join."""
    made = Join.objects.filter(title=row).first()
    if made is None:
        raise CantJoin("This title is no join.", advice="Load the page again.")
    return made


def parts_of(row: Title) -> list[Title | None]:
    """The titles that a join is made of; ``None`` for one that is not on the Shelf any more."""
    made = Join.objects.filter(title=row).first()
    return [] if made is None else [_member(source_id, key) for source_id, key in made.members]


def make_again(source: Source) -> None:
    """Make all joins again that have a part on a source; those that lack one say so."""
    for made in _with_part_on(source):
        rows = [_member(source_id, key) for source_id, key in made.members]
        there = [row for row in rows if row is not None]
        try:
            if len(there) < len(rows):
                raise CantJoin("A part is not on the Shelf any more.")
            _store(made.title, _joined(there), there)
        except CantJoin:
            _mark_missing(made.title)


def lose_parts(source: Source) -> None:
    """Mark joins on other sources that have a part on this one, which leaves the Shelf; those on it leave with it."""
    for made in _with_part_on(source):
        if made.title.source_id != source.pk:
            _mark_missing(made.title)


def _with_part_on(source: Source) -> list[Join]:
    joins = Join.objects.select_related("title__source")
    return [made for made in joins if any(source_id == source.pk for source_id, _ in made.members)]


def _mark_missing(row: Title) -> None:
    row.document = {**row.document, "fault": PART_MISSING}
    row.outline = {**row.outline, "fault": PART_MISSING}
    row.save(update_fields=["document", "outline"])
    _changed(row)


def _joined(titles: Sequence[Title]) -> CoreTitle:
    wanted = [PartWanted(title=title.core_title(), name=title.name) for title in titles]
    return replace(joined_title(wanted, FIRST_NUMBER), role=Role.FEATURE)


def _store(row: Title, core: CoreTitle, titles: Sequence[Title]) -> None:
    if row.document and row.document.get("size_bytes") != core.size_bytes:
        row.forget_looks()
    core = replace(core, number=row.number, key=row.key)
    row.duration_s, row.document, row.outline = core.duration_s, dump(core), outline_of(core)
    if not row.named_by_hand:
        row.name = join_name([title.name for title in titles])[:220]
    row.tags_found = dump(joined_tags(row.name, [title.tags() for title in titles]))
    if not row.role_by_hand:
        row.role = core.role.value
    row.save()
    _changed(row)


def _changed(row: Title) -> None:
    update(Source.objects.filter(pk=row.source_id))


def _members(titles: Sequence[Title]) -> list[list[int | str]]:
    return [[title.source_id, title.key] for title in titles]


def _member(source_id: int, key: str) -> Title | None:
    return Title.objects.select_related("source").filter(source_id=source_id, key=key).first()
