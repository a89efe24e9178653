"""Writing down what became of a job, for the history."""

from __future__ import annotations

from django.utils import timezone

from ..estimates import read_expected
from ..models import Job, JobState, Record

MOST_RECORDS = 20_000
"""As many as that are kept: years of them, in a few megabytes."""


def record(job: Job, file_name: str = "") -> None:
    """Keep what became of a job that has just ended; ``file_name`` of what was made."""
    expected = read_expected(job.expected)
    source = job.title.source.name if job.title else ""
    names = (job.title_name, source, *job.device_names, job.summary, file_name, job.error_message, job.note)
    kept = Record.objects.create(
        state=job.state,
        kind=job.kind,
        title_name=job.title_name,
        source_name=source,
        device_names=job.device_names,
        summary=job.summary,
        message=job.error_message or job.note,
        file_name=file_name,
        duration_s=job.duration_s,
        made_s=job.made_s,
        expected_s=expected.time_s,
        size_bytes=job.written_bytes if job.state == JobState.DONE else 0,
        expected_bytes=expected.size_bytes,
        added=job.added,
        started=job.started,
        ended=job.ended or timezone.now(),
        words=" ".join(names).casefold(),
    )
    Record.objects.filter(pk__lte=kept.pk - MOST_RECORDS).delete()
