"""Making jobs of cells: one for each file, however many devices it serves."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.db.models import Max

from rheon.core.errors import PlanError
from rheon.core.media import mark_of
from rheon.core.media.documents import dump
from rheon.core.planning import Plan, PlanRequest, plan
from rheon.server.bench.planning import request_for, stored_setting
from rheon.server.bench.queries import settings_text
from rheon.server.home.queries import output_folders
from rheon.server.household.actions.devices import mark_used
from rheon.server.household.models import Column, Device
from rheon.server.shelf.models import Source, SourceState, Title

from ..models import Job, JobKind
from ..settling import expected_of
from ..tasks import run_jobs_task

DISCS = ("dvd", "bluray")
COPY_BYTES_PER_S = 60e6


def add_jobs(cells: Sequence[tuple[Title, Device]]) -> list[Job]:
    """Queue the cells that something is to be made for. Raises ``PlanError`` where that is none of them."""
    groups: dict[tuple[int, str], tuple[Title, PlanRequest, Plan, list[Device]]] = {}
    for title, device in cells:
        request = request_for(title, device, stored_setting(title.pk, device.pk))
        made = plan(request)
        if made.settings is None:
            continue
        key = (title.pk, mark_of(made.settings))
        known = groups.setdefault(key, (title, request, made, []))[3]
        known += [served for served in device.served() if served not in known]
    if not groups:
        raise PlanError("Nothing has to be made for this: it plays as it is, or can't be made.", advice="")
    with transaction.atomic():
        mark_used([device.pk for _, device in cells])
        return [_add(*group) for group in groups.values()]


def add_copy(source: Source) -> Job:
    """Queue a faithful copy of a whole disc. Raises ``PlanError`` where the source is no disc, or is scrambled."""
    if source.kind not in DISCS or source.state != SourceState.READY:
        raise PlanError(f"{source.name} is no disc that was read.", advice="Choose a disc folder or an image.")
    if any(problem["code"] == "scrambled" for problem in source.problems):
        raise PlanError(f"{source.name} is scrambled, and Rheon stops there.", advice="")
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


def _add(title: Title, request: PlanRequest, made: Plan, devices: list[Device]) -> Job:
    profiles = tuple(dict.fromkeys(profile for device in devices for profile in device.core_profiles()))
    assert made.settings
    faithful = any(profile.faithful for profile in profiles)
    return _queue(
        kind=JobKind.COPY_TITLE if faithful else JobKind.CONVERT,
        title=title,
        title_name=title.name,
        device_names=[device.name for device in devices],
        device_ids=[device.pk for device in devices if device.column == Column.DEVICE],
        summary=settings_text(made.settings)[:300],
        title_document=dump(title.core_title()),
        plan_document=dump(made),
        duration_s=title.duration_s,
        expected=expected_of(made),
        request_document=dump(replace(request, devices=profiles)),
        device_documents=[device.profile for device in devices],
    )


def _queue(**facts: Any) -> Job:
    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    job = Job.objects.create(
        **facts,
        folder=str(output_folders()[-1]),
        position=last + 1,
        token=uuid.uuid4().hex,
    )
    transaction.on_commit(run_jobs_task.enqueue)
    return job
