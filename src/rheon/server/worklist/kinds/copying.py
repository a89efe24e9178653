"""Whole discs, every file as it is."""

from __future__ import annotations

from pathlib import Path

from rheon.core.delivery import DiscCopied, DiscOrder, copy_disc, take_up_copy
from rheon.core.encoding import Hooks, ProgressUnit
from rheon.core.media.documents import load
from rheon.core.naming.names import safe_stem
from rheon.server.shelf.folders import inside

from ..models import Job, JobKind
from .kind import Finished, Note


class CopyingDisc:
    """A disc folder or image is read, written, and read again."""

    name = JobKind.COPY_DISC
    unit = ProgressUnit.BYTES

    def run(self, job: Job, hooks: Hooks, note: Note) -> Finished:
        return copy_disc(_order(job), hooks, note)

    def take_up(self, job: Job) -> Finished | None:
        if not job.delivery_document:
            return None
        return take_up_copy(_order(job), load(DiscCopied, job.delivery_document))

    def whole(self, duration_s: float, size_bytes: int) -> float:
        return 2.0 * size_bytes


def _order(job: Job) -> DiscOrder:
    """Raises ``OutsideFolders``."""
    disc = inside(job.disc_path)
    return DiscOrder(source=disc, folder=Path(job.folder), name=safe_stem(job.title_name, "posix"), token=job.token)
