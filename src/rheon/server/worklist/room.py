"""Whether there is space for what waits: a job begins when its file fits, and until then it waits for that."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from rheon.core.planning import Estimate

from .estimates import read_expected
from .models import Job, JobState

SPARE_BYTES = 16 << 20
"""Left free beside a file."""
MORE = 1.25
"""A file that did not fit is thought to become so many times as large as it was then."""


@dataclass(slots=True)
class Room:
    """Free bytes of folders, each asked for once."""

    known: dict[str, int | None] = field(default_factory=dict)

    def free_bytes(self, folder: str) -> int | None:
        """On the disk on which the folder lies or will lie; ``None`` where that can't be told."""
        if folder not in self.known:
            self.known[folder] = free_bytes(Path(folder))
        return self.known[folder]

    def short_bytes(self, folder: str, expected: Estimate, needs_bytes: int) -> int:
        """How much more has to be free before a job begins; 0 where there is enough, or nobody knows."""
        free = self.free_bytes(folder)
        return 0 if free is None else max(0, max(needs_bytes, expected.size_bytes) + SPARE_BYTES - free)


def free_bytes(folder: Path) -> int | None:
    """What is free on the disk of a folder, or of the nearest one above it that there is."""
    for place in (folder, *folder.parents):
        try:
            return shutil.disk_usage(place).free
        except FileNotFoundError:
            continue
        except OSError:
            return None
    return None


def that_may_begin() -> Iterator[int]:
    """The jobs that wait and for which there is room, in their order."""
    room = Room()
    waiting = Job.objects.filter(state=JobState.WAITING).order_by("position", "id")
    for pk, folder, expected, needs_bytes in waiting.values_list("pk", "folder", "expected", "needs_bytes"):
        if not room.short_bytes(folder, read_expected(expected), needs_bytes):
            yield pk


def needed_bytes(job: Job) -> int:
    """What a file takes that turned out not to fit."""
    return max(read_expected(job.expected).size_high_bytes, round(job.written_bytes * MORE))
