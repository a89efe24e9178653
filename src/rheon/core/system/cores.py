"""The processor cores that a process and what it started may use: fewer of them, and more again, while it all runs."""

from __future__ import annotations

import contextlib
import functools
import os
from collections.abc import Iterator
from pathlib import Path


@functools.cache
def cores() -> tuple[int, ...]:
    """The cores that this process was given when it first asked."""
    return tuple(sorted(os.sched_getaffinity(0)))


def keep_to_cores(count: int) -> None:
    """Let this process, its threads and all that they started use so many cores, at least one.

    What is started later inherits it (sched_setaffinity(2)).
    """
    wanted = frozenset(cores()[-max(1, count) :])
    for pid in (os.getpid(), *_children(os.getpid())):
        for thread in _threads(pid):
            with contextlib.suppress(OSError):  # it has ended meanwhile
                if os.sched_getaffinity(thread) != wanted:
                    os.sched_setaffinity(thread, wanted)


def _threads(pid: int) -> list[int]:
    try:
        return [int(thread.name) for thread in Path(f"/proc/{pid}/task").iterdir()]
    except OSError:
        return []


def _children(pid: int) -> Iterator[int]:
    """All that a process started, and what those did (proc_pid_task_children(5)); none where nobody tells."""
    for thread in _threads(pid):
        with contextlib.suppress(OSError):
            for child in map(int, Path(f"/proc/{pid}/task/{thread}/children").read_text().split()):
                yield child
                yield from _children(child)
