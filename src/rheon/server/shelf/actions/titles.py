"""What people set by hand about titles. All of it outlives a re-scan."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from rheon.core.errors import NoSuchTitle
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load
from rheon.core.sources import ChapterRange

from ..models import Part, Source, Title
from .joins import make_again
from .sources import read_again, update
from .tags import propose_tags


def set_role(title: Title, role: str | None) -> None:
    """Say what a title is; ``None`` gives back what its disc says."""
    title.role_by_hand = role is not None
    title.role = role if role is not None else load(CoreTitle, title.document).role.value
    save_title(title, "role", "role_by_hand")
    propose_tags(title.source)


def rename_title(title: Title, name: str) -> None:
    """Call a title, and what is made of it, by another name; an empty one gives it back its own at the next scan."""
    wanted = name.strip()
    title.named_by_hand = bool(wanted)
    title.name = wanted[:220] or title.name
    title.tags_by_hand = {key: said for key, said in title.tags_by_hand.items() if key != "title"}
    save_title(title, "name", "named_by_hand", "tags_by_hand")


def set_angle(title: Title, angle: int) -> None:
    """Choose the angle that is shown and converted. Raises ``NoSuchTitle``."""
    angles = load(CoreTitle, title.document).angles
    if not 1 <= angle <= angles:
        raise NoSuchTitle("This title has no angle {angle}.", angle=angle, advice="It has {angles}.", angles=angles)
    title.angle = angle
    save_title(title, "angle")


def cut_by_chapters(title: Title, ranges: Sequence[tuple[int, int]]) -> None:
    """Make ranges of chapters titles of their own; none undoes it. Raises ``NoSuchTitle``."""
    core = title.core_title()
    if core.joined:
        raise NoSuchTitle("This title is a join.", advice="Cut its parts instead, or take it apart.")
    if core.part_of is not None:
        raise NoSuchTitle("This title is a part itself.", advice="Cut the whole title instead.")
    wanted = [ChapterRange(first=first, last=last) for first, last in ranges]
    for chapters in wanted:
        if not 1 <= chapters.first <= chapters.last <= len(core.chapters):
            raise NoSuchTitle(
                "There are no chapters {first} to {last}.",
                first=chapters.first,
                last=chapters.last,
                advice="The title has {count}.",
                count=len(core.chapters),
            )
    with transaction.atomic():
        Part.objects.filter(source=title.source, title_key=title.key).delete()
        Part.objects.bulk_create(
            Part(source=title.source, title_key=title.key, first=c.first, last=c.last) for c in wanted
        )
        read_again(title.source)


def save_title(title: Title, *fields: str) -> None:
    """Write what somebody set, and tell whoever shows it."""
    title.save(update_fields=fields)
    update(Source.objects.filter(pk=title.source_id))
    # joins call their chapters by their parts' names, and show their angles
    make_again(title.source)
