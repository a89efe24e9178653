"""What the live stream's events hold."""

from __future__ import annotations

from rheon.server.api.documents import Document
from rheon.server.worklist.documents import Job, Total


class Counts(Document):
    """The numbers in the bar; ``fraction`` is how far all that is to do has come."""

    sources: int
    picked: int
    to_do: int
    fraction: float
    outputs: int


class Marks(Document):
    """Each changes when its place should be read again."""

    worklist: str
    shelf: str
    bench: str
    outbox: str
    household: str
    balance: str
    home: str


class Live(Document):
    running: list[Job]
    total: Total
    counts: Counts
    marks: Marks
