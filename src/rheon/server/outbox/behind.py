"""Finished files in which something else is written than what is known of their titles by now."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from django.db.models import F

from rheon.core.media import TAG_FIELDS, Tags, tags_of
from rheon.core.media.documents import dump, load
from rheon.core.naming.patterns import Naming
from rheon.core.system import is_there
from rheon.core.tagging import TAGGED
from rheon.server.home.naming import called_here, house_naming
from rheon.server.home.queries import output_folders
from rheon.server.shelf.models import Title

from . import documents
from .models import Output

MOST_SHOWN = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class Behind:
    """A file, the tags it is to have, and its name by them behind its folders; the same where people named it."""

    output: Output
    tags: Tags
    name: str


def files_behind(titles: Sequence[int]) -> Iterator[Behind]:
    """Of files that are there and can be tagged. What was set for one file alone stays as it was set."""
    rows = Title.objects.defer("document", "outline", "samples", "survey").in_bulk(titles)
    made = Output.objects.filter(title_id__in=rows, is_sample=False, container__in=TAGGED).annotate(
        pins=F("job__request_document__pins"), video=F("job__plan_document__settings__video")
    )
    naming = house_naming()
    for output in made.order_by("title_id", "-pk")[:MOST_SHOWN]:
        if output.title_id is None or not is_there(output.path):
            continue
        tags = _tags_now(output, rows[output.title_id])
        if dump(tags) != output.tags:
            yield Behind(output=output, tags=tags, name=_name_by(output, tags, naming))


def _tags_now(output: Output, title: Title) -> Tags:
    now = title.tags().tags.or_called(title.name)
    known = {tag: value for tag, value in dump(now).items() if value not in ("", None)}
    pinned = {key.partition(".")[2] for key in output.pins or {}} | {*output.own_tags}  # type: ignore[attr-defined]
    if output.video is None:  # type: ignore[attr-defined]
        # a file of sound alone has what people wrote into its source, and of one without its job nobody knows
        return tags_of({**output.tags, **{tag: value for tag, value in known.items() if tag not in pinned}})
    return tags_of({**known, **{tag: output.tags.get(tag) for tag in pinned if tag in TAG_FIELDS}})


def _name_by(output: Output, tags: Tags, naming: Naming) -> str:
    """With what was put behind its name to tell it from others; a name that no pattern has made stays."""
    path = Path(output.path)
    root = next((one for one in output_folders() if path.is_relative_to(one)), path.parent)
    name, before = path.relative_to(root).with_suffix("").as_posix(), called_here(load(Tags, output.tags), naming)
    if name != before and not name.startswith(f"{before} ("):
        return f"{name}{path.suffix}"
    return f"{called_here(tags, naming)}{name.removeprefix(before)}{path.suffix}"


def behind_document(titles: Sequence[int]) -> documents.FilesBehind:
    writing = Output.objects.filter(title_id__in=titles, tags_wanted__isnull=False)
    return documents.FilesBehind(
        files=[
            documents.FileBehind(
                output_id=one.output.pk,
                title_name=one.output.title_name,
                file_name=Path(one.output.path).name,
                becomes=one.name.rpartition("/")[2],
                error=one.output.tags_error,
            )
            for one in files_behind(titles)
            if one.output.tags_wanted is None
        ],
        writing=writing.count(),
    )
