"""What is proposed for one episode, done for its whole series: each episode is cut where its own proposals lie."""

from __future__ import annotations

from dataclasses import dataclass

from rheon.core.errors import RheonError
from rheon.core.media import KeptRange
from rheon.core.media.kept import left_of
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_value
from rheon.server.shelf.actions.proposing import proposals_of, series_of
from rheon.server.shelf.models import Title

from ..models import Target
from ..planning import stored_override
from .overrides import change_override


@dataclass(frozen=True, slots=True, kw_only=True)
class SeriesCut:
    """How many episodes there are, how many are cut now, are still looked at, and have nothing proposed."""

    episodes: int
    cut: int
    looking: int
    nothing: int


def cut_series(title: Title, target: Target) -> SeriesCut:
    """Leave out of each episode what is proposed for it; one that is cut already stays as it is.

    Episodes that are still looked at are not cut: called again when that has ended, it goes on.
    """
    done = [_cut(episode, target) for episode in (title, *series_of(title))]
    return SeriesCut(
        episodes=len(done), cut=done.count("cut"), looking=done.count("looking"), nothing=done.count("nothing")
    )


def _cut(title: Title, target: Target) -> str:
    override = stored_override(title.pk, target.pk)
    if override is not None and KEEP.key in override.pins:
        return "cut"
    try:
        found, looking = proposals_of(title)
        if looking:
            return "looking"
        kept = left_of(title.duration_s, (KeptRange(from_s=one.from_s, until_s=one.until_s) for one in found))
        if not found or not kept:
            return "nothing"
        change_override(title, target, None, {KEEP.key: kept_value(kept)})
    except (RheonError, OSError):
        return "nothing"
    return "cut"
