"""What was found out about a title, as stretches that could be left out: each once, from end to end. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from .leaders import Leaders
from .shared import Shared

AT_BEGIN_S, AT_END_S = 1.5, 2.5
"""What begins or ends so near to a title's end, or to the black there, goes to the end: a remainder is of no use."""
CLOSE_S = 2.5


class Why(StrEnum):
    """Why a stretch could be left out."""

    QUIET = "quiet"
    SHARED = "shared"
    CREDITS = "credits"


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """A stretch that could be left out, and why, and how many other titles have it too."""

    from_s: float
    until_s: float
    why: Why
    others: int = 0


def proposed(
    duration_s: float, leaders: Leaders, credits_s: float | None = None, shared: Sequence[Shared] = ()
) -> tuple[Proposal, ...]:
    """In the order of time."""
    found: list[Proposal] = []
    begins_s, ends_s = leaders.begins_s or 0.0, duration_s if leaders.ends_s is None else leaders.ends_s
    for one in shared:
        from_s = 0.0 if one.from_s <= begins_s + AT_BEGIN_S else one.from_s
        until_s = duration_s if one.until_s >= ends_s - AT_END_S else one.until_s
        found.append(Proposal(from_s=from_s, until_s=until_s, why=Why.SHARED, others=one.others))
    if credits_s is not None:
        found = _with_credits(found, credits_s, duration_s)
    if leaders.begins_s is not None and not any(one.from_s == 0 for one in found):
        found.append(Proposal(from_s=0.0, until_s=leaders.begins_s, why=Why.QUIET))
    if leaders.ends_s is not None and not any(one.until_s == duration_s for one in found):
        found.append(Proposal(from_s=leaders.ends_s, until_s=duration_s, why=Why.QUIET))
    return tuple(sorted(found, key=lambda one: one.from_s))


def _with_credits(found: Sequence[Proposal], credits_s: float, duration_s: float) -> list[Proposal]:
    """Where text and what others have too are one stretch, the text says when: music often begins before it."""
    same = next((one for one in found if abs(one.from_s - credits_s) <= CLOSE_S), None)
    apart = [one for one in found if one.until_s <= credits_s + AT_BEGIN_S or one.from_s < credits_s - CLOSE_S]
    apart = [one for one in apart if one is not same]
    # what others have in common from well before the text on holds the text too
    if any(one.until_s == duration_s for one in apart):
        return apart
    others = same.others if same else 0
    return [*apart, Proposal(from_s=credits_s, until_s=duration_s, why=Why.CREDITS, others=others)]
