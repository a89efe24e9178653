"""Picking files up: opening the page for them, shutting it, and what happened there."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from rheon.core.devices import Trouble
from rheon.core.errors import SourceMissing
from rheon.core.naming.episodes import natural_key
from rheon.core.system import is_there
from rheon.server.household.models import Device

from ..models import Output, PickUp
from ..names import called
from .outputs import report

OPEN_FOR = timedelta(hours=2)
DIGITS, LENGTH = "0123456789", 8
"""A remote types digits; a hundred millions of them are enough where ten wrong ones shut the page."""


def pick_up() -> PickUp:
    row, _ = PickUp.objects.get_or_create(pk=1)
    return row


def open_pick_up(outputs: Sequence[Output], device: Device | None) -> PickUp:
    """Let these files be picked up for two hours under a new code. Raises ``SourceMissing`` where one is gone."""
    for output in outputs:
        if not is_there(output.path):
            raise SourceMissing("{title} is not where it was made any more.", title=output.title_name)
    row = pick_up()
    row.open_up(DIGITS, LENGTH, OPEN_FOR)
    row.device, row.fetched = device, {}
    row.outputs = [output.pk for output in sorted(outputs, key=lambda one: natural_key(called(one)))]
    row.save()
    return row


def close_pick_up() -> None:
    row = pick_up()
    row.shut()
    row.save()


def to_be_picked_up(code: str) -> list[Output] | None:
    """The files that a code opens, in order; ``None`` for one that opens nothing. Too many wrong ones shut the page."""
    row = pick_up()
    if not row.lets_in(code):
        return None
    found = Output.objects.in_bulk(row.outputs)
    return [found[pk] for pk in row.outputs if pk in found]


def picked_up_file(code: str, output_id: int) -> Output | None:
    """One of the files that a code opens."""
    row = pick_up()
    return Output.objects.filter(pk=output_id).first() if row.lets_in(code) and output_id in row.outputs else None


def note_fetched(output_id: int) -> None:
    """The end of a file was given to a device."""
    with transaction.atomic():
        row = pick_up()
        row.fetched = {**row.fetched, str(output_id): timezone.now().isoformat()}
        row.save(update_fields=["fetched"])


def report_from_device(output: Output, trouble: Trouble | None) -> bool:
    """Whether what was seen there counts: only where it is known which device it is. Raises ``SourceError``."""
    device = pick_up().device
    if device is None:
        return False
    report(output, device, trouble)
    return True
