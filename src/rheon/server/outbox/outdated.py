"""Finished files in which something else is written than what is known of their titles by now."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from rheon.core.media import Tags, tags_of
from rheon.core.media.documents import dump
from rheon.core.system import is_there
from rheon.core.tagging import TAGGED
from rheon.server.home.naming import house_naming
from rheon.server.shelf.models import Title

from . import documents
from .models import Output
from .names import name_by


@dataclass(frozen=True, slots=True, kw_only=True)
class Outdated:
    """A file, the tags it is to have, and its name by them."""

    output: Output
    tags: Tags
    name: str


def outdated_files(titles: Sequence[int]) -> Iterator[Outdated]:
    """Of files that are there, can be tagged and are not being tagged. What was set for one file alone stays."""
    rows = Title.objects.defer("document", "outline", "samples", "survey").in_bulk(titles)
    made = Output.objects.filter(title_id__in=rows, is_sample=False, container__in=TAGGED, tags_wanted__isnull=True)
    planned = made.values_list("pk", "job__request_document__pins", "job__plan_document__settings__video")
    plans = {pk: (pins or {}, video is not None) for pk, pins, video in planned}
    naming = house_naming()
    for output in made.order_by("title_id", "-pk"):
        if output.title_id is None or not is_there(output.path):
            continue
        pins, has_video = plans.get(output.pk, ({}, False))
        own = {key.partition(".")[2] for key in pins} | {*output.own_tags}
        tags = _tags_now(output, rows[output.title_id], own, has_video=has_video)
        if dump(tags) != output.tags:
            name = name_by(output, tags, naming, own_names=False)
            yield Outdated(output=output, tags=tags, name=name)


def _tags_now(output: Output, title: Title, own: set[str], *, has_video: bool) -> Tags:
    """What is known of a title now, but for the ``own`` tags of its file."""
    told = dump(title.tags().tags.or_called(title.name))
    known = {tag: value for tag, value in told.items() if value not in ("", None) and tag not in own}
    if has_video:
        return tags_of({**known, **{tag: value for tag, value in output.tags.items() if tag in own}})
    # a file of sound alone has what people wrote into its source, and of one without its job nobody knows
    return tags_of({**output.tags, **known})


def outdated_document(titles: Sequence[int]) -> documents.OutdatedFiles:
    return documents.OutdatedFiles(
        files=[
            documents.OutdatedFile(
                output_id=one.output.pk,
                title_name=one.output.title_name,
                file_name=Path(one.output.path).name,
                becomes=one.name.rpartition("/")[2],
                error=one.output.tags_error,
            )
            for one in outdated_files(titles)
        ],
        writing=Output.objects.filter(title_id__in=titles, tags_wanted__isnull=False).count(),
    )
