"""Telling what was made to a command that the settings name: it may write a mail, or call who wants to know."""

from __future__ import annotations

import json
import shlex
from collections.abc import Iterable

from django.conf import settings
from django.db.models import Q

from ..models import IN_WORK, Job, JobState, Pace, Record
from ..pace import pace, set_pace
from .own_command import carry_out


def tell_what_was_made() -> None:
    """Once nothing is made or waits: what became of all since it was last told, once.

    What ended before the settings named a command is not told.
    """
    argv = shlex.split(settings.RHEON_TELL)
    if not argv or Job.objects.filter(IN_WORK | Q(state=JobState.WAITING)).exists():
        return
    newest = Record.objects.first()
    last, told = newest.pk if newest else 0, pace().told
    if told is None:
        set_pace(told=last)
    elif last > told and Pace.objects.filter(told=told).update(told=last):
        records = Record.objects.filter(pk__gt=told, pk__lte=last).order_by("id")
        news = json.dumps(_news(records), ensure_ascii=False)
        carry_out(argv, "What was made could not be told", news.encode())


def _news(records: Iterable[Record]) -> dict[str, list[dict[str, object]]]:
    """``made`` and ``not_made``, each in the order in which it ended."""
    news: dict[str, list[dict[str, object]]] = {"made": [], "not_made": []}
    for record in records:
        of_all = {"title": record.title_name, "devices": record.device_names}
        if record.state == JobState.DONE:
            made = {"file": record.file_name, "size_bytes": record.size_bytes, "took_s": record.made_s}
            news["made"].append({**of_all, **made})
        else:
            news["not_made"].append({**of_all, "outcome": record.state, "message": record.message})
    return news
