"""The registry of kinds of jobs. A new kind is a file here and its name in ``models.JobKind``."""

from ..models import JobKind
from .copying import CopyingDisc
from .kind import Finished, Kind
from .making import Making, Sampling

KINDS: dict[str, Kind] = {
    kind.name: kind for kind in (Making(JobKind.CONVERT), Making(JobKind.COPY_TITLE), CopyingDisc(), Sampling())
}

__all__ = ["KINDS", "Finished", "Kind"]
