"""Claims on rows: which of them a worker is at, on this machine or another, and which nobody works on any more."""

from __future__ import annotations

import contextlib
import logging
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import connection, models
from django.utils import timezone

from rheon.core.system import has_started_again, is_alive, process_identity, this_host

log = logging.getLogger("rheon")
BEAT_S, LEASE_S = 20.0, 90.0
"""A lease is renewed with every beat. A machine that has been silent for so long is taken to be gone."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Lease:
    """Who is at a row."""

    host: str
    worker: str
    until: datetime | None


class Leased(models.Model):
    """A row that one worker at a time is at: on which machine, as which process, and until when unless it beats."""

    host = models.CharField(max_length=200, blank=True)
    worker = models.CharField(max_length=40, blank=True)
    lease_until = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    @property
    def lease(self) -> Lease:
        return Lease(host=self.host, worker=self.worker, until=self.lease_until)


class Claims:
    """What this process has claimed and is working on, so that a claim that nobody works on any more can be told."""

    def __init__(self, rows: Callable[[], models.QuerySet[Any]]) -> None:
        self._rows = rows
        self._lock = threading.Lock()
        self._held: set[int] = set()

    @staticmethod
    def mine() -> dict[str, object]:
        """The fields of a row that this process claims."""
        until = timezone.now() + timedelta(seconds=LEASE_S)
        return {"host": this_host(), "worker": process_identity(), "lease_until": until}

    @contextlib.contextmanager
    def holding(self, claim: Callable[[], int | None]) -> Iterator[int | None]:
        """Claim a row and hold it inside; ``claim`` gives its number, or ``None`` where there is none to be had."""
        with self._lock:
            claimed = claim()
            if claimed is not None:
                self._held.add(claimed)
        if claimed is None:
            yield None
            return
        done = threading.Event()
        beat = threading.Thread(target=self._beat, args=(claimed, done), daemon=True, name="lease")
        beat.start()
        try:
            yield claimed
        finally:
            done.set()
            with self._lock:
                self._held.discard(claimed)

    def is_lost(self, row: int, lease: Lease) -> bool:
        """Whether a row is being worked on by nobody."""
        if lease.host not in ("", this_host()):
            return has_started_again(lease.host) or lease.until is None or lease.until < timezone.now()
        if lease.worker != process_identity():
            return not is_alive(lease.worker)
        with self._lock:
            return row not in self._held

    def _beat(self, row: int, done: threading.Event) -> None:
        while not done.wait(BEAT_S):
            try:
                mine = self._rows().filter(pk=row, host=this_host(), worker=process_identity())
                mine.update(lease_until=timezone.now() + timedelta(seconds=LEASE_S))
            except Exception:
                # a database that is busy now may not be with the next beat
                log.exception("the lease on row %s could not be renewed", row)
            finally:
                connection.close()
