"""Making jobs of cells: one for each file, however many devices it serves."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.db.models import Max

from rheon.core.descriptions import settings_text
from rheon.core.errors import PlanError
from rheon.core.media import mark_of
from rheon.core.media.documents import dump
from rheon.core.media.kept import middle_of
from rheon.core.planning import MINUTE_S, Plan, PlanRequest, minute_plan, minute_request, minute_within, plan
from rheon.server.bench.actions.targets import mark_used
from rheon.server.bench.models import Recipient, Target
from rheon.server.bench.planning import request_of
from rheon.server.home.queries import output_folders
from rheon.server.shelf.models import Source, SourceState, Title

from ..models import Job, JobKind
from ..settling import expected_of
from ..tasks import run_jobs_task

DISCS = ("dvd", "bluray")
COPY_BYTES_PER_S = 60e6
TO_TRY = "To try"
"""The folder beside the files for what is only made to be tried."""


def add_jobs(cells: Sequence[tuple[Title, Target]]) -> list[Job]:
    """Queue the cells that something is to be made for. Raises ``PlanError`` where that is none of them."""
    groups: dict[tuple[int, str], tuple[Title, PlanRequest, Plan, list[Target]]] = {}
    for title, target in cells:
        request = request_of(title, target)
        made = plan(request)
        if made.settings is None:
            continue
        key = (title.pk, mark_of(made.settings))
        groups.setdefault(key, (title, request, made, []))[3].append(target)
    if not groups:
        raise _nothing()
    with transaction.atomic():
        mark_used([target for _, target in cells])
        return [_add(*group) for group in groups.values()]


def add_sample(title: Title, target: Target) -> Job:
    """Queue a minute to try what a cell would make, before all that waits; which one it is, is found by the job.

    Raises ``PlanError`` or ``BadPin``.
    """
    request = request_of(title, target)
    whole = plan(request)
    if whole.settings is None:
        raise _nothing()
    within = minute_within(request.title, whole.settings)
    middle = middle_of(within, MINUTE_S) if within else None
    made = minute_plan(minute_request(request, whole, middle), whole)
    assert made.settings
    with transaction.atomic():
        return _add(
            title,
            request,
            made,
            [target],
            kind=JobKind.SAMPLE,
            folder=str(output_folders()[-1] / TO_TRY),
            position=0,
            duration_s=made.settings.duration_s,
        )


def _nothing() -> PlanError:
    return PlanError("Nothing has to be made for this: it plays as it is, or can't be made.", advice="")


def add_copy(source: Source) -> Job:
    """Queue a faithful copy of a whole disc. Raises ``PlanError`` where the source is no disc, or is scrambled."""
    if source.kind not in DISCS or source.state != SourceState.READY:
        raise PlanError(
            "{source} is no disc that was read.", source=source.name, advice="Choose a disc folder or an image."
        )
    if any(problem["code"] == "scrambled" for problem in source.problems):
        raise PlanError("{source} is scrambled, and Rheon stops there.", source=source.name, advice="")
    seconds = source.size_bytes / COPY_BYTES_PER_S
    expected = {
        "size_bytes": source.size_bytes,
        "size_low_bytes": source.size_bytes,
        "size_high_bytes": source.size_bytes,
        "time_s": seconds,
        "time_low_s": seconds * 0.5,
        "time_high_s": seconds * 2,
    }
    with transaction.atomic():
        return _queue(
            title_name=source.name,
            device_names=["safe keeping"],
            summary=f"{source.form} · every file · checksums",
            kind=JobKind.COPY_DISC,
            disc_path=source.path,
            expected=expected,
        )


def _add(title: Title, request: PlanRequest, made: Plan, targets: Sequence[Target], **facts: Any) -> Job:
    served: list[Recipient] = []
    for target in targets:
        served += [recipient for recipient in target.recipients if recipient not in served]
    profiles = tuple(dict.fromkeys(recipient.named for recipient in served))
    assert made.settings
    faithful = any(profile.faithful for profile in profiles)
    known = {
        "kind": JobKind.COPY_TITLE if faithful else JobKind.CONVERT,
        "title": title,
        "title_name": title.name,
        "device_names": [recipient.name for recipient in served],
        "device_ids": [recipient.device_id for recipient in served if recipient.device_id is not None],
        "target_ids": [target.pk for target in targets],
        "summary": settings_text(made.settings)[:300],
        "title_document": dump(title.core_title()),
        "plan_document": dump(made),
        "duration_s": title.duration_s,
        "expected": expected_of(made),
        "request_document": dump(replace(request, devices=profiles)),
        "device_documents": [recipient.profile.model_dump(mode="json") for recipient in served],
    }
    return _queue(**{**known, **facts})


def _queue(**facts: Any) -> Job:
    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    place = {"folder": str(output_folders()[-1]), "position": last + 1, "token": uuid.uuid4().hex}
    job = Job.objects.create(**{**place, **facts})
    transaction.on_commit(run_jobs_task.enqueue)
    return job
