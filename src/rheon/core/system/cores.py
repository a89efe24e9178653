"""The processor cores that a process and what it started may use: fewer of them, and more again, while it all runs."""

from __future__ import annotations

import contextlib
import functools
import os

from .processes import descendants, threads_of


@functools.cache
def cores() -> tuple[int, ...]:
    """The cores that this process was given when it first asked."""
    return tuple(sorted(os.sched_getaffinity(0)))


def keep_to_cores(count: int) -> None:
    """Let this process, its threads and all that they started use so many cores, at least one.

    What is started later inherits it (sched_setaffinity(2)).
    """
    wanted = frozenset(cores()[-max(1, count) :])
    for pid in (os.getpid(), *descendants(os.getpid())):
        for thread in threads_of(pid):
            with contextlib.suppress(OSError):  # it has ended meanwhile
                if os.sched_getaffinity(thread) != wanted:
                    os.sched_setaffinity(thread, wanted)
