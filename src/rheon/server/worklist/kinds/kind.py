"""What a kind of job is: how it runs, what it counts, and how one that was cut short is brought to its end."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from rheon.core.delivery import Delivered, DiscCopied
from rheon.core.encoding import Hooks, ProgressUnit

from ..models import Job, JobKind

Finished = Delivered | DiscCopied
"""A checked file or folder, with its checks."""
Note = Callable[[Finished], None]
"""Told just before what is finished gets its name."""


class Kind(Protocol):
    """A kind of job; ``unit`` is what its progress counts."""

    name: JobKind
    unit: ProgressUnit

    def run(self, job: Job, hooks: Hooks, note: Note) -> Finished:
        """Make, check and name it. Raises ``RheonError``; nothing is left then."""

    def take_up(self, job: Job) -> Finished | None:
        """What was finished before a worker was ended, with its name; ``None`` where nothing was.

        Raises ``RheonError`` or ``OSError``.
        """

    def whole(self, duration_s: float, size_bytes: int) -> float:
        """How much there is to do, in the unit, for a title so long or a disc so large."""
