"""Joins: titles that somebody put together as one. They are made again whenever one of their parts is read again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.db import transaction

from rheon.core.analysis.joining import joined_title
from rheon.core.errors import CantJoin
from rheon.core.media import Role
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump
from rheon.core.media.joining import PartWanted
from rheon.core.media.names import join_name

from ..models import Join, Source, Title
from ..outlines import outline_of
from .sources import update

FIRST_NUMBER = 1_000_000
"""Joins are numbered from there on, above whatever a source numbers its titles."""
PART_MISSING = "part_missing"


def join(titles: Sequence[Title], name: str = "") -> Title:
    """Put titles together as one, in their order. Raises ``CantJoin``."""
    core = _joined(titles)
    with transaction.atomic():
        made = Join.objects.create(source=titles[0].source, members=_members(titles))
        row = Title(source=titles[0].source, key=made.key, number=FIRST_NUMBER + made.pk)
        row.named_by_hand = bool(name.strip())
        row.name = name.strip()[:220]
        _store(row, core, titles)
    return row


def reorder(row: Title, titles: Sequence[Title]) -> None:
    """Make a join of other titles, or of the same in another order. Raises ``CantJoin``."""
    made = join_of(row)
    core = _joined(titles)
    with transaction.atomic():
        made.source, made.members = titles[0].source, _members(titles)
        made.save()
        if row.source_id != made.source_id:
            update(Source.objects.filter(pk=row.source_id))
            row.source = made.source
        row.samples = row.survey = None
        row.samples_failed = row.survey_failed = False
        _store(row, core, titles)


def take_apart(row: Title) -> None:
    """Forget a join; its parts stay. Raises ``CantJoin`` where the title is none."""
    made = join_of(row)
    with transaction.atomic():
        made.delete()
        row.delete()
        update(Source.objects.filter(pk=row.source_id))


def join_of(row: Title) -> Join:
    """The join that a title is. Raises ``CantJoin`` where it is none."""
    made = Join.objects.filter(pk=Join.number_in(row.key)).first()
    if made is None:
        raise CantJoin("This title is no join.", advice="Load the page again.")
    return made


def parts_of(row: Title) -> list[Title | None]:
    """The titles that a join is made of; ``None`` for one that is not on the Shelf any more."""
    made = Join.objects.filter(pk=Join.number_in(row.key)).first()
    return [] if made is None else [_member(source_id, key) for source_id, key in made.members]


def make_again(source: Source) -> None:
    """Make all joins again that have a part on a source."""
    for made in Join.objects.select_related("source"):
        if any(source_id == source.pk for source_id, _ in made.members):
            _make_again(made)


def mark_missing(source: Source) -> None:
    """Mark joins of other sources that lose a part with this one; those of its own go with it."""
    for made in Join.objects.exclude(source=source):
        if any(source_id == source.pk for source_id, _ in made.members):
            for row in Title.objects.filter(key=made.key):
                _fault(row)


def _make_again(made: Join) -> None:
    members = [_member(source_id, key) for source_id, key in made.members]
    rows = [row for row in members if row is not None]
    row = Title.objects.filter(key=made.key).first()
    if row is None:
        row = Title(source=made.source, key=made.key, number=FIRST_NUMBER + made.pk)
    try:
        core = _joined(rows) if len(rows) == len(members) else None
    except CantJoin:
        core = None
    if core is not None:
        _store(row, core, rows)
    elif row.pk:
        _fault(row)


def _fault(row: Title) -> None:
    row.document = {**row.document, "fault": PART_MISSING}
    row.outline = {**row.outline, "fault": PART_MISSING}
    row.save(update_fields=["document", "outline"])
    update(Source.objects.filter(pk=row.source_id))


def _joined(titles: Sequence[Title]) -> CoreTitle:
    wanted = [PartWanted(title=title.core_title(), name=title.name) for title in titles]
    return replace(joined_title(wanted, FIRST_NUMBER), role=Role.FEATURE)


def _store(row: Title, core: CoreTitle, titles: Sequence[Title]) -> None:
    if row.document and row.document.get("size_bytes") != core.size_bytes:
        row.samples = row.survey = None
        row.samples_failed = row.survey_failed = False
    core = replace(core, number=row.number, key=row.key)
    row.duration_s, row.document, row.outline = core.duration_s, dump(core), outline_of(core)
    if not row.named_by_hand:
        row.name = join_name([title.name for title in titles])[:220]
    if not row.role_by_hand:
        row.role = core.role.value
    row.save()
    update(Source.objects.filter(pk=row.source_id))


def _members(titles: Sequence[Title]) -> list[list[int | str]]:
    return [[title.source_id, title.key] for title in titles]


def _member(source_id: int, key: str) -> Title | None:
    return Title.objects.select_related("source").filter(source_id=source_id, key=key).first()
