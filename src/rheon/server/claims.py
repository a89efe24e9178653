"""Claims on rows: which of them this process is working on, and which nobody works on any more."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Callable, Iterator

from rheon.core.system import is_alive, process_identity


class Claims:
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
