"""Trying encoders in hardware, and whether they are preferred."""

from __future__ import annotations

import logging

from django.db import transaction

from rheon.core.encoding import hardware_mark, try_hardware
from rheon.core.errors import RheonError
from rheon.core.media.documents import dump

from ..hardware import MOST_FAILURES, devices
from ..queries import home
from ..tasks import look_for_hardware_task
from .row import change_home

log = logging.getLogger("rheon")


def look_now() -> None:
    """Try what this machine has. Where the engine itself can't be asked, there is nothing."""
    place = devices()
    if place is None:
        return
    mark = hardware_mark(place)
    try:
        trials = try_hardware(place)
    except RheonError as error:
        log.warning("could not look for encoders in hardware: %s", error)
        trials = ()
    change_home(trials=[dump(trial) for trial in trials], hardware_mark=mark)


def look_again() -> None:
    """Try everything once more, and measure what works anew."""
    with transaction.atomic():
        change_home(hardware_mark="", costs={}, failures={})
        transaction.on_commit(look_for_hardware_task.enqueue)


def doubt(encoder: str, said: str) -> None:
    """One of them failed: all are tried before they are used again, and one that fails again and again is not used."""
    with transaction.atomic():
        failures = home().failures
        lately = [*failures.get(encoder, ()), said][-MOST_FAILURES:]
        change_home(hardware_mark="", failures={**failures, encoder: lately})
        transaction.on_commit(look_for_hardware_task.enqueue)


def trust(encoder: str) -> None:
    """One of them made a file: what failed before was no fault of it."""
    if encoder in (failures := home().failures):
        change_home(failures={name: said for name, said in failures.items() if name != encoder})


def prefer_speed(*, preferred: bool) -> None:
    """Whether encoders in hardware make whatever they can."""
    change_home(prefers_speed=preferred)


def keep_cost(encoder: str, cost: dict[str, object]) -> None:
    """Note what was measured of an encoder."""
    with transaction.atomic():
        change_home(costs={**home().costs, encoder: cost})
