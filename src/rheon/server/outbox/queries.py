"""Reading the Outbox."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from django.db.models import Count, Sum

from rheon.core.catalogue import say
from rheon.core.devices import RuleResult
from rheon.core.formats import CONTAINERS, PLAYED_BY_BROWSERS, media_type
from rheon.core.media import Tags
from rheon.core.media.documents import load
from rheon.core.planning import usual_cover
from rheon.core.planning.decisions import Choice
from rheon.core.planning.decisions.file import BY_TAG
from rheon.core.planning.decisions.file.tags import tag_choices
from rheon.core.system import is_there
from rheon.core.tagging import TAGGED
from rheon.server.bench.queries import rule_document
from rheon.server.home.queries import output_folders
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title
from rheon.server.worklist.estimates import read_expected

from . import documents
from .models import ArtworkWanted, Output
from .names import name_by

OUTLINE = ("id", "title_id", "title_name", "device_names", "size_bytes", "making_s", "checking_s", "held", "is_sample")
PAGE = 500


def outputs_document(after: int) -> documents.Outbox:
    """How many files there are and how large, and a page of all outputs, newest first, behind the one ``after``."""
    rows = Output.objects.filter(pk__lt=after) if after else Output.objects.all()
    outputs = [
        documents.Outline(**{key: row[key] for key in OUTLINE}, present=is_there(row["path"]))
        for row in rows.values(*OUTLINE, "path")[:PAGE]
    ]
    files = Output.objects.filter(is_sample=False).aggregate(count=Count("id"), size_bytes=Sum("size_bytes", default=0))
    samples = Output.objects.filter(is_sample=True).count()
    return documents.Outbox(count=files["count"], size_bytes=files["size_bytes"], samples=samples, outputs=outputs)


def output_document(output: Output) -> documents.Output:
    path = Path(output.path)
    return documents.Output(
        id=output.pk,
        job_id=output.job_id,
        title_id=output.title_id,
        title_name=output.title_name,
        device_names=output.device_names,
        summary=output.summary,
        is_sample=output.is_sample,
        file_name=path.name,
        folder=_folder_text(path.parent),
        present=is_there(path),
        is_folder=path.is_dir(),
        media_type=media_type(path.suffix) if path.suffix.lower() in PLAYED_BY_BROWSERS else None,
        size_bytes=output.size_bytes,
        making_s=output.making_s,
        checking_s=output.checking_s,
        expected=read_expected(output.expected),
        checks=[_check(check) for check in output.checks],
        played_on=_played_on(output),
        tags=_tags(output),
        made=output.made,
    )


def _tags(output: Output) -> documents.OutputTags | None:
    """``None`` where nothing can be written into what was made."""
    if output.container not in TAGGED:
        return None
    tags = load(Tags, output.tags)
    return documents.OutputTags(
        tags=[
            documents.OutputTag(
                name=name, label=kind.label, value=_typed(getattr(tags, name)), choices=tag_choices(name)
            )
            for name, kind in BY_TAG.items()
        ],
        artwork=_artwork(output),
        proposed_name=name_by(output, tags),
        writing=output.tags_wanted is not None,
        error=output.tags_error,
    )


def _artwork(output: Output) -> tuple[Choice, ...]:
    """The title's own only while that is on the Shelf and has any."""
    if not CONTAINERS[output.container].cover:
        return ()
    names = {
        ArtworkWanted.KEPT: say("stays as it is"),
        ArtworkWanted.OF_TITLE: say("that of the title"),
        ArtworkWanted.NONE: say("none"),
    }
    title = Title.objects.filter(pk=output.title_id or 0).first()
    if title is None or usual_cover(title.core_title()) is None:
        del names[ArtworkWanted.OF_TITLE]
    return tuple(Choice(value=one.value, text=text) for one, text in names.items())


def _typed(value: object) -> str:
    return "" if value is None else str(value)


def _played_on(output: Output) -> list[documents.PlayedOn]:
    """The devices that are still in the Household, each with what was reported last."""
    said = {report["device_id"]: report for report in output.reports}
    rows = Device.objects.filter(pk__in=output.device_ids)
    return [
        documents.PlayedOn(
            device_id=row.pk,
            device_name=row.name,
            reported=row.pk in said,
            trouble=said[row.pk]["trouble"] if row.pk in said else None,
        )
        for row in rows
    ]


def _folder_text(folder: Path) -> str:
    """Where a file lies, as far as it helps: from the folder for files on, without the way to it."""
    for output in reversed(output_folders()):
        if folder.is_relative_to(output):
            return str(output.name / folder.relative_to(output))
    return folder.name


def _check(check: Mapping[str, Any]) -> documents.Check:
    rules = [rule_document(load(RuleResult, result)) for result in check["results"]]
    return documents.Check(device_name=check["device_name"], kept=sum(rule.ok for rule in rules), rules=rules)
