"""Telling what was made to a command that the settings name: it may write a mail, or call who wants to know."""

from __future__ import annotations

import json
import logging
import shlex
from collections.abc import Iterable

from django.conf import settings
from django.db.models import Q

from rheon.core.engine import Command, run
from rheon.core.errors import RheonError

from ..models import IN_WORK, Job, JobState, Pace, Record
from ..pace import pace, set_pace

log = logging.getLogger("rheon")
TIMEOUT_S = 60.0


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
        _tell(argv, Record.objects.filter(pk__gt=told, pk__lte=last).order_by("id"))


def _tell(argv: list[str], records: Iterable[Record]) -> None:
    said = json.dumps(_news(records), ensure_ascii=False).encode()
    try:
        run(Command(argv=argv, feed=lambda: iter([said]), timeout_s=TIMEOUT_S))
    except RheonError as error:
        log.warning("could not tell what was made: %s", error.what)
        set_pace(end_failed=f"What was made could not be told: {error.what}")


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
