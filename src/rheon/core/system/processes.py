"""Processes as the kernel lists them."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path


def process_facts(pid: int) -> list[str]:
    """The fields of a process from its state on (proc_pid_stat(5)); empty where there is none."""
    try:
        # the name in brackets, which comes before, may hold anything
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
    except OSError:
        return []


def threads_of(pid: int) -> list[int]:
    try:
        return [int(thread.name) for thread in Path(f"/proc/{pid}/task").iterdir()]
    except OSError:
        return []


def descendants(pid: int) -> Iterator[int]:
    """All that a process started, and what those did (proc_pid_task_children(5)); none where nobody tells."""
    for thread in threads_of(pid):
        with contextlib.suppress(OSError):
            for child in map(int, Path(f"/proc/{pid}/task/{thread}/children").read_text().split()):
                yield child
                yield from descendants(child)
