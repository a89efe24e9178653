"""Choosing how much of the machine the making takes, and seeing when the machine has had enough."""

from __future__ import annotations

import functools
import os

from django.db import transaction

from rheon.core.errors import SettingsRefused
from rheon.core.system import Others, cores, is_hot

from ..hours import known_zone
from ..machine import most_at_once
from ..models import MachineShare
from ..pace import pace, set_pace
from ..tasks import run_jobs_task


def share_machine(share: MachineShare, *, used: int | None, at_once: int, zone: str) -> None:
    """Take so much of the machine, also for what is being made: ``used`` cores where room is left (``None``: half),
    and so many files beside each other. ``zone`` is where it is day. Raises ``SettingsRefused``.
    """
    if used is not None and not 1 <= used <= len(cores()):
        raise SettingsRefused("This machine has {count} cores.", count=len(cores()), advice="")
    if not 1 <= at_once <= most_at_once():
        raise SettingsRefused("At most {count} files are made at once here.", count=most_at_once(), advice="")
    known_zone(zone)
    with transaction.atomic():
        set_pace(share=share, cores=used, at_once=at_once, day_zone=zone)
        transaction.on_commit(run_jobs_task.enqueue)


def mind_battery(*, minded: bool) -> None:
    """Whether nothing is made while the machine lives on its battery."""
    with transaction.atomic():
        set_pace(battery_too=not minded)
        transaction.on_commit(run_jobs_task.enqueue)


def mind_others(*, minded: bool) -> None:
    """Whether everything stands still while other programs want the machine."""
    with transaction.atomic():
        set_pace(only_idle=minded, busy=False)
        transaction.on_commit(run_jobs_task.enqueue)


def see_to_strain() -> None:
    """Have everything stand still once the machine is too hot to go on, until it has cooled down; or, where that is
    wished, once others want it, until they leave it alone.
    """
    now = pace()
    if is_hot(now.hot) != now.hot:
        set_pace(hot=not now.hot)
    if now.only_idle and others().are_busy(now.busy) != now.busy:
        set_pace(busy=not now.busy)


@functools.cache
def others() -> Others:
    """All that does not belong to this installation: the keeper started every part of it, and they their engines."""
    return Others(os.getppid())
