"""Taking in finished files, and forgetting them."""

from __future__ import annotations

from dataclasses import asdict

from rheon.core.delivery import Delivered, DiscCopied
from rheon.server.worklist.models import Job

from ..models import Output


def take(job: Job, delivered: Delivered | DiscCopied) -> Output:
    """Keep a delivered file with its checks and what was expected of it."""
    return Output.objects.create(
        job=job,
        title_id=job.title_id,
        title_name=job.title_name,
        device_names=job.device_names,
        summary=job.summary,
        path=str(delivered.path),
        size_bytes=delivered.size_bytes,
        making_s=delivered.making_s,
        checking_s=delivered.checking_s,
        expected=job.expected,
        held=all(result.ok for check in delivered.checks for result in check.results),
        checks=[
            {"device_name": name, "results": [asdict(result) for result in check.results]}
            for name, check in zip(job.device_names, delivered.checks, strict=True)
        ],
    )


def forget(output: Output) -> None:
    """Take an output off the list; the file stays where it is."""
    output.delete()
