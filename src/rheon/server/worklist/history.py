"""Reading the history: what was made, when, how long it took and how large it came out; found by words, and as CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from django.db.models import Count, Q, QuerySet, Sum

from . import documents
from .documents import Outcome
from .models import JobState, Record

PAGE = 200
OUTCOMES = {Outcome.ALL: Q(), Outcome.MADE: Q(state=JobState.DONE), Outcome.NOT_MADE: ~Q(state=JobState.DONE)}
COLUMNS = (
    "ended", "started", "outcome", "title", "source", "devices", "kind", "what", "file", "length_s", "size_bytes",
    "expected_bytes", "took_s", "expected_s", "message",
)  # fmt: skip
FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""A cell of text that begins so is carried out by spreadsheets."""


def history_document(wanted: documents.HistoryWanted) -> documents.History:
    """A page of what became of jobs, newest first, behind the one ``after``; a total over all that was asked for."""
    asked = _asked(wanted)
    page = asked.filter(pk__lt=wanted.after) if wanted.after else asked
    return documents.History(
        recorded=Record.objects.exists(),
        total=_total(asked),
        records=[documents.Record(**row) for row in page.values(*documents.Record.model_fields)[:PAGE]],
    )


def history_csv(wanted: documents.HistoryWanted) -> str:
    """All that was asked for, newest first, as RFC 4180 has it; times in ISO 8601 and UTC."""
    text = io.StringIO()
    rows = csv.writer(text)
    rows.writerow(COLUMNS)
    for row in _asked(wanted).defer("words").iterator():
        rows.writerow(_cells(row))
    return text.getvalue()


def _asked(wanted: documents.HistoryWanted) -> QuerySet[Record]:
    asked = Record.objects.filter(OUTCOMES[wanted.outcome])
    for word in wanted.q.casefold().split():
        asked = asked.filter(words__contains=word)
    return asked


def _total(asked: QuerySet[Record]) -> documents.HistoryTotal:
    """What was made and what had been expected of it, of those of which both are known."""
    made = Q(state=JobState.DONE)
    both = made & Q(made_s__isnull=False, expected_s__gt=0)
    # what is summed last gets a field's name, which no sum after it could mean any more
    known = asked.order_by().aggregate(
        count=Count("id"),
        made=Count("id", filter=made),
        compared_bytes=Sum("size_bytes", filter=both, default=0),
        compared_s=Sum("made_s", filter=both, default=0.0),
        expected_bytes=Sum("expected_bytes", filter=both, default=0),
        expected_s=Sum("expected_s", filter=both, default=0.0),
        size_bytes=Sum("size_bytes", filter=made, default=0),
        made_s=Sum("made_s", filter=made, default=0.0),
    )
    return documents.HistoryTotal(**known)


def _cells(row: Record) -> Iterable[str | int]:
    started = row.started.isoformat(timespec="seconds") if row.started else ""
    took_s = "" if row.made_s is None else f"{row.made_s:.1f}"
    said = (row.title_name, row.source_name, ", ".join(row.device_names), row.kind, row.summary, row.file_name)
    return (
        row.ended.isoformat(timespec="seconds"),
        started,
        row.state,
        *map(_as_text, said),
        f"{row.duration_s:.1f}",
        row.size_bytes,
        row.expected_bytes,
        took_s,
        f"{row.expected_s:.1f}",
        _as_text(row.message),
    )


def _as_text(said: str) -> str:
    return "'" + said if said.startswith(FORMULA) else said
