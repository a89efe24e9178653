"""Taking in finished files, and forgetting them."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import Any

from django.db import transaction

from rheon.core.checking import read_facts
from rheon.core.delivery import beside
from rheon.core.devices import Trouble
from rheon.core.errors import SourceMissing
from rheon.core.media.documents import dump
from rheon.core.system import is_there
from rheon.server.household.actions.learning import tell_played
from rheon.server.household.models import Device
from rheon.server.worklist.kinds import Finished
from rheon.server.worklist.models import Job, JobKind

from ..models import Output

MOST_SAMPLES = 30
"""Samples are made to be tried once: older ones go."""


def take(job: Job, delivered: Finished) -> Output:
    """Keep a delivered file with its checks and what was expected of it."""
    taken = Output.objects.create(
        job=job,
        is_sample=job.kind == JobKind.SAMPLE,
        title_id=job.title_id,
        title_name=job.title_name,
        device_names=job.device_names,
        device_ids=job.device_ids,
        summary=job.summary,
        path=str(delivered.path),
        size_bytes=delivered.size_bytes,
        duration_s=job.duration_s,
        making_s=delivered.making_s,
        checking_s=delivered.checking_s,
        expected=job.expected,
        held=all(result.ok for check in delivered.checks for result in check.results),
        checks=[
            {"device_name": name, "results": [dump(result) for result in check.results]}
            for name, check in zip(job.device_names, delivered.checks, strict=True)
        ],
        **_written(job),
    )
    forget_oldest()
    return taken


def _written(job: Job) -> dict[str, Any]:
    """What was written into a job's file for people; nothing for a copy of a disc."""
    made = job.core_plan().settings if job.plan_document else None
    return {} if made is None else {"tags": dump(made.tags), "container": made.container}


def forget_oldest() -> None:
    """Let go of the samples that are more than are kept."""
    for old in Output.objects.filter(is_sample=True)[MOST_SAMPLES:]:
        forget(old)


def report(output: Output, device: Device, trouble: Trouble | None) -> Output:
    """Keep what somebody saw on a device, and let its profile learn from it. Raises ``SourceError``."""
    if not is_there(output.path):
        raise SourceMissing("The file is not where it was made any more, so nothing can be learned from it.")
    tell_played(device, read_facts(Path(output.path)), trouble)
    said = {"device_id": device.pk, "device_name": device.name, "trouble": trouble.value if trouble else None}
    output.reports = [*(one for one in output.reports if one["device_id"] != device.pk), said]
    output.save(update_fields=["reports"])
    return output


def forget(output: Output) -> None:
    """Take an output off the list; the file stays where it is, unless it was only made to be tried."""
    output.delete()
    if output.is_sample:
        transaction.on_commit(lambda: _remove(Path(output.path), output.size_bytes))


def _remove(sample: Path, size_bytes: int) -> None:
    """A sample and the subtitles beside it, as long as it is the file that was made."""
    with contextlib.suppress(OSError):
        if not sample.is_file() or sample.stat().st_size != size_bytes:
            return
        for path in (*beside(sample), sample):
            path.unlink()
