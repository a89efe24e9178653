"""Whoever steers a piece of work steers each program that it runs: all stand still with it, and end with it."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager
from contextvars import ContextVar
from dataclasses import dataclass, replace

from ..errors import Stopped

ASK_S = 0.1


def never() -> bool:
    """The answer of those who neither stop nor pause anything."""
    return False


@dataclass(frozen=True, slots=True)
class Steering:
    """Whether work is to end, and whether it is to stand still: both are asked again and again. Whether somebody sits
    and waits for it.
    """

    should_stop: Callable[[], bool] = never
    is_paused: Callable[[], bool] = never
    is_awaited: bool = False


_NOBODY = Steering()
_now = ContextVar("steering", default=_NOBODY)


def steered(should_stop: Callable[[], bool], is_paused: Callable[[], bool]) -> AbstractContextManager[None]:
    """While it lasts, what this thread runs can be stopped and paused, where it does not say by whom itself."""
    return _by(replace(steering(), should_stop=should_stop, is_paused=is_paused))


def awaited() -> AbstractContextManager[None]:
    """While it lasts, somebody sits and waits for what this thread runs: it goes before work that nobody watches."""
    return _by(replace(steering(), is_awaited=True))


@contextlib.contextmanager
def _by(one: Steering) -> Iterator[None]:
    before = _now.set(one)
    try:
        yield
    finally:
        _now.reset(before)


def steering() -> Steering:
    """Who steers what this thread does; nobody, where none was named."""
    return _now.get()


def stand_by(by: Steering | None = None) -> None:
    """Before a next step: wait while work stands still. Raises ``Stopped`` where it is to end."""
    by = by or steering()
    while True:
        if by.should_stop():
            raise Stopped("The work was stopped.")
        if not by.is_paused():
            return
        time.sleep(ASK_S)
