"""What is proposed for one episode, done for its whole series: each episode is cut where its own proposals lie."""

from __future__ import annotations

import logging
from collections import Counter
from enum import StrEnum

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

log = logging.getLogger("rheon")


class Outcome(StrEnum):
    """What became of an episode."""

    CUT = "cut"
    LOOKING = "looking"
    NOTHING = "nothing"
    FAILED = "failed"


def cut_series(title: Title, target: Target) -> Counter[Outcome]:
    """Leave out of each episode what is proposed for it; one that is cut already stays as it is.

    Episodes that are still looked at are not cut: called again when that has ended, it goes on.
    """
    return Counter(_cut(episode, target) for episode in (title, *series_of(title)))


def _cut(title: Title, target: Target) -> Outcome:
    override = stored_override(title.pk, target.pk)
    if override is not None and KEEP.key in override.pins:
        return Outcome.CUT
    try:
        found, looking = proposals_of(title)
        if looking:
            return Outcome.LOOKING
        kept = left_of(title.duration_s, (KeptRange(from_s=one.from_s, until_s=one.until_s) for one in found))
        if not found or not kept:
            return Outcome.NOTHING
        change_override(title, target, None, {KEEP.key: kept_value(kept)})
    except (RheonError, OSError) as error:
        log.warning("could not cut title %s: %s", title.pk, error)
        return Outcome.FAILED
    return Outcome.CUT
