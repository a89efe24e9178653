"""What works are called: proposed from what their sources say, and set by hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.db import transaction

from rheon.core.errors import NoSuchTitle
from rheon.core.look_up.works import Work
from rheon.core.media import Role, SourceForm, SourceKind
from rheon.core.media import Source as CoreSource
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump, load
from rheon.core.naming.proposing import propose, season_disc
from rheon.core.planning.decisions.file.tags import read_tag

from ..models import Source, Title
from .look_up import work_of
from .sources import update

Change = tuple[int, str, str | None]
"""A title's row, the name of a tag and what it is to be; ``None`` gives back what was found."""


def propose_tags(source: Source, read: Sequence[CoreTitle] | None = None) -> None:
    """Find out anew what a source's titles are called, and count on the episodes of the discs after it. ``read`` are
    its titles where they are in hand.
    """
    core = _core(source, read)
    found = season_disc(core)
    source.series, source.disc = (f"{found[0]}|{found[1]}"[:220], found[2]) if found else ("", 0)
    source.save(update_fields=["series", "disc"])
    _propose(source, core)
    if source.series:
        for later in Source.objects.filter(series=source.series, disc__gt=source.disc).order_by("disc"):
            _propose(later, _core(later))


def propose_missing() -> int:
    """For titles that an older Rheon has read; returns of how many sources."""
    unnamed = Title.objects.filter(tags_found__isnull=True, join__isnull=True).order_by("source_id")
    sources = list(unnamed.values_list("source_id", flat=True).distinct())
    for pk in sources:
        with transaction.atomic():  # what is read anew meanwhile has other titles
            if source := Source.objects.filter(pk=pk).first():
                propose_tags(source)
    return len(sources)


def set_tags(changes: Sequence[Change], work: str = "") -> None:
    """Set tags by hand, all of them or none; ``work`` is the key of the one that they were taken from.

    Raises ``BadPin`` where a value can't be one, ``NoSuchTitle``, ``NoSuchWork``.
    """
    taken_from = work_of(work) if work else None
    read = [(title, tag, None if value is None else read_tag(tag, value)) for title, tag, value in changes]
    with transaction.atomic():
        # as they are now: what somebody set meanwhile stays
        rows = Title.objects.only("source_id", "tags_by_hand", "looked_up").in_bulk([title for title, _, _ in read])
        for title, tag, value in read:
            if title not in rows:
                raise NoSuchTitle("A title is no longer on the Shelf.", advice="Load the page again.")
            kept = {key: said for key, said in rows[title].tags_by_hand.items() if key != tag}
            rows[title].tags_by_hand = kept if value is None else {**kept, tag: value}
            if taken_from and value is not None:
                _remember(rows[title], *taken_from, tag, value)
        Title.objects.bulk_update(rows.values(), ["tags_by_hand", "looked_up"])
        update(Source.objects.filter(pk__in={row.source_id for row in rows.values()}))


def _remember(row: Title, service: str, work: Work, tag: str, value: str | int) -> None:
    """Where a value was looked up; what was taken from elsewhere before is told by that work no more."""
    called = f"{work.title} ({work.year})" if work.year is not None else work.title
    known = row.looked_up or {}
    same = (known.get("service"), known.get("work")) == (service, called)
    values = {**known["values"], tag: value} if same else {tag: value}
    row.looked_up = {"service": service, "work": called, "values": values}


def _core(source: Source, read: Sequence[CoreTitle] | None = None) -> CoreSource:
    """The source as it was read, with roles as they were set."""
    rows = source.titles.filter(join__isnull=True).order_by("number")
    roles = dict(rows.values_list("number", "role"))
    known = read if read is not None else [load(CoreTitle, one) for one in rows.values_list("document", flat=True)]
    titles = (replace(title, role=Role(roles[title.number])) for title in known)
    return CoreSource(
        kind=SourceKind(source.kind or SourceKind.FILES),
        form=SourceForm(source.form or SourceForm.FILE),
        label=source.label,
        path=source.path,
        size_bytes=source.size_bytes,
        titles=tuple(titles),
    )


def _propose(source: Source, core: CoreSource) -> None:
    found = propose(core, _episodes_before(source))
    rows = list(source.titles.filter(join__isnull=True))
    for row in rows:
        row.tags_found = dump(found[row.number])
    Title.objects.bulk_update(rows, ["tags_found"])
    update(Source.objects.filter(pk=source.pk))


def _episodes_before(source: Source) -> int | None:
    """Those on the discs of its season before it; ``None`` where not all of these are on the Shelf."""
    before = Source.objects.filter(series=source.series, disc__lt=source.disc).exclude(pk=source.pk)
    if not source.series or {one.disc for one in before} != set(range(1, source.disc)):
        return None
    return Title.objects.filter(source__in=before, role=Role.EPISODE.value, join__isnull=True).count() or None
