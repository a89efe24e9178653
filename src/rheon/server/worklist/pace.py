"""Whether anything on the list may begin, or go on: held by hand, kept to some hours, spared by the machine."""

from __future__ import annotations

from .machine import spared_for
from .models import Pace


def pace() -> Pace:
    return Pace.objects.first() or Pace(pk=1)


def set_pace(**facts: object) -> None:
    Pace.objects.update_or_create(pk=1, defaults=facts)


def may_work(now: Pace) -> bool:
    """Whether what was begun may go on: it is the hour, and the machine bears it."""
    return now.is_open and spared_for(now) is None


def may_begin() -> bool:
    now = pace()
    return not now.held and may_work(now)
