"""Taking in finished files, and forgetting them."""

from __future__ import annotations

from pathlib import Path

from rheon.core.checking import read_facts
from rheon.core.devices import Trouble
from rheon.core.errors import SourceMissing
from rheon.core.media.documents import dump
from rheon.core.system import is_there
from rheon.server.household.actions.learning import tell_played
from rheon.server.household.models import Device
from rheon.server.worklist.kinds import Finished
from rheon.server.worklist.models import Job

from ..models import Output


def take(job: Job, delivered: Finished) -> Output:
    """Keep a delivered file with its checks and what was expected of it."""
    return Output.objects.create(
        job=job,
        title_id=job.title_id,
        title_name=job.title_name,
        device_names=job.device_names,
        device_ids=job.device_ids,
        summary=job.summary,
        path=str(delivered.path),
        size_bytes=delivered.size_bytes,
        making_s=delivered.making_s,
        checking_s=delivered.checking_s,
        expected=job.expected,
        held=all(result.ok for check in delivered.checks for result in check.results),
        checks=[
            {"device_name": name, "results": [dump(result) for result in check.results]}
            for name, check in zip(job.device_names, delivered.checks, strict=True)
        ],
    )


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
    """Take an output off the list; the file stays where it is."""
    output.delete()
