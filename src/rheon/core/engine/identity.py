"""Telling whether a process that was seen before is still the same one."""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable, Iterator
from pathlib import Path

ENDED = ("Z", "X")
"""States of processes that only wait to be noticed (proc(5))."""


def process_identity(pid: int | None = None) -> str:
    """``pid:start`` for a process (this one by default); empty where there is none, or only its exit status."""
    number = os.getpid() if pid is None else pid
    try:
        stat = Path(f"/proc/{number}/stat").read_text()
    except OSError:
        return ""
    # the name in brackets may hold anything; the start time is the 20th field after it
    facts = stat.rpartition(")")[2].split()
    return "" if facts[0] in ENDED else f"{number}:{facts[19]}"


def is_alive(identity: str) -> bool:
    """Whether the process with this identity still runs."""
    pid = identity.partition(":")[0]
    return pid.isdigit() and process_identity(int(pid)) == identity


class InHand:
    """What this process has claimed and is working on, so that a claim that nobody works on any more can be told."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._held: set[int] = set()

    @contextlib.contextmanager
    def holding(self, claim: Callable[[], int | None]) -> Iterator[int | None]:
        """Claim a row and hold it inside; ``claim`` gives its number, or ``None`` where there is none to be had."""
        with self._lock:
            claimed = claim()
            if claimed is not None:
                self._held.add(claimed)
        try:
            yield claimed
        finally:
            if claimed is not None:
                with self._lock:
                    self._held.discard(claimed)

    def is_lost(self, row: int, worker: str) -> bool:
        """Whether a row that ``worker`` claimed is being worked on by nobody."""
        if worker != process_identity():
            return not is_alive(worker)
        with self._lock:
            return row not in self._held
