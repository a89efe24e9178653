"""Chapters as people want them: by hand, from a list, by a pattern, or made where there are none."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.db import transaction

from rheon.core.analysis import even_chapters
from rheon.core.chapters import Placed, by_pattern, placed, plain, read_list
from rheon.core.errors import BadChapters, NoSuchTitle
from rheon.core.media import Chapter
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load

from ..models import Part, Title
from ..tasks import make_chapters_task
from .finding_out import find_out, found_out, mark_for
from .titles import save_title

SAME_S = 0.001


def set_chapters(title: Title, chapters: Sequence[Chapter] | None, alike: Sequence[Title] = ()) -> None:
    """Give a title these chapters, ``None`` those it was read with; titles with as many get their names too.

    Raises ``BadChapters``.
    """
    with transaction.atomic():
        made = _set(title, chapters)
        for other in alike:
            own = other.core_title().chapters
            if len(own) != len(made):
                raise BadChapters("{title} has {count} chapters.", title=other.name, count=len(own), advice="")
            _set(other, [replace(chapter, name=one.name) for chapter, one in zip(own, made, strict=True)])


def name_chapter(title: Title, number: int, name: str) -> None:
    """Name a chapter; an empty name gives back its own. Raises ``NoSuchTitle`` where there is no such chapter."""
    chapters = list(title.core_title().chapters)
    if not 1 <= number <= len(chapters):
        raise NoSuchTitle("There is no chapter {number}.", number=number, advice="Load the page again.")
    old = chapters[number - 1]
    read = next((one.name for one in _read(title) if _at_once(one, old)), None)
    chapters[number - 1] = replace(old, name=" ".join(name.split()) or read)
    set_chapters(title, chapters)


def chapters_of_list(title: Title, text: str) -> Placed:
    """What a list makes of a title's chapters; nothing is changed. Raises ``BadChapters``."""
    core = title.core_title()
    return placed(read_list(text), core.chapters, core.duration_s)


def chapters_by_pattern(title: Title, pattern: str) -> Placed:
    """The same of a pattern that names each. Raises ``BadPattern``."""
    known = title.tags().tags.or_called(title.name)
    return Placed(chapters=by_pattern(pattern, title.core_title().chapters, known))


def made_chapters(title: Title, every_s: int) -> Placed | None:
    """Chapters of about so many seconds; ``None`` while changes of scene near them are looked for.

    Raises ``BadChapters``.
    """
    if every_s * 1.5 > title.duration_s:
        raise BadChapters("This title is too short for chapters of that length.", advice="Choose shorter ones.")
    found = found_out(_mark(title, every_s), lambda: make_chapters_task.enqueue(title.pk, every_s))
    if found is None:
        return None
    if not found:
        raise BadChapters("The title's pictures could not be read.", advice="Read the source again.")
    return Placed(chapters=plain([(start_s, "") for start_s in found["starts"]]))


def make_chapters(title_id: int, every_s: int) -> None:
    title = Title.objects.select_related("source").filter(pk=title_id).first()
    if title is not None:
        find_out(_mark(title, every_s), lambda: {"starts": even_chapters(title.readable_title(), every_s)})


def titles_alike(title: Title, count: int) -> list[int]:
    """The other titles of a source that have the same role and as many chapters."""
    others = Title.objects.filter(source=title.source_id, role=title.role, join__isnull=True).exclude(pk=title.pk)
    return [pk for pk, outline in others.values_list("pk", "outline") if len(outline.get("chapters", ())) == count > 0]


def _mark(title: Title, every_s: int) -> str:
    return mark_for(f"chapters-{every_s}", (title,))


def _set(title: Title, chapters: Sequence[Chapter] | None) -> Sequence[Chapter]:
    read = _read(title)
    wanted = read if chapters is None else chapters
    if _moved(wanted, title.core_title().chapters) and _is_cut(title):
        raise BadChapters(
            "This title is cut into titles by its chapters, which can't move now.", advice="Undo the cuts first."
        )
    as_read = not _moved(wanted, read) and all(one.name == other.name for one, other in zip(wanted, read, strict=True))
    title.chapters_by_hand = None if as_read else [[one.start_s, one.name or ""] for one in wanted]
    title.outline = {**title.outline, "chapters": [one.start_s for one in wanted]}
    save_title(title, "chapters_by_hand", "outline")
    return wanted


def _read(title: Title) -> Sequence[Chapter]:
    """The chapters that it was read with."""
    return load(CoreTitle, title.document).chapters


def _is_cut(title: Title) -> bool:
    return Part.objects.filter(source=title.source_id, title_key=title.key).exists()


def _moved(wanted: Sequence[Chapter], before: Sequence[Chapter]) -> bool:
    return len(wanted) != len(before) or not all(map(_at_once, wanted, before))


def _at_once(one: Chapter, other: Chapter) -> bool:
    return abs(one.start_s - other.start_s) < SAME_S
