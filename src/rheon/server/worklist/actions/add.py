"""Making jobs of cells: one for each file, however many devices it serves."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from django.conf import settings
from django.db import transaction
from django.db.models import Max

from rheon.core.errors import PlanError
from rheon.core.media.documents import dump
from rheon.core.planning import Plan
from rheon.server.bench.planning import plan_cell, stored_setting
from rheon.server.bench.queries import settings_text
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from ..models import Job


def add_jobs(cells: Sequence[tuple[Title, Device]]) -> list[Job]:
    """Queue the cells that something is to be made for. Raises ``PlanError`` where that is none of them."""
    groups: dict[tuple[int, str], tuple[Title, Plan, list[Device]]] = {}
    for title, device in cells:
        made = plan_cell(title, device, stored_setting(title.pk, device.pk))
        if made.settings is None:
            continue
        key = (title.pk, repr(made.settings))
        groups.setdefault(key, (title, made, []))[2].append(device)
    if not groups:
        raise PlanError("Nothing has to be made for this: it plays as it is, or can't be made.", advice="")
    with transaction.atomic():
        return [_add(title, made, devices) for title, made, devices in groups.values()]


def _add(title: Title, made: Plan, devices: list[Device]) -> Job:
    from ..tasks import run_next_task  # noqa: PLC0415 - tasks call these actions

    assert made.settings
    last = Job.objects.aggregate(last=Max("position"))["last"] or 0
    job = Job.objects.create(
        title=title,
        title_name=title.name,
        device_names=[device.name for device in devices],
        summary=settings_text(made.settings)[:300],
        title_document=title.document,
        plan_document=dump(made),
        device_documents=[device.profile for device in devices],
        folder=str(settings.RHEON_OUTPUT_FOLDER),
        position=last + 1,
        token=uuid.uuid4().hex,
    )
    transaction.on_commit(run_next_task.enqueue)
    return job
