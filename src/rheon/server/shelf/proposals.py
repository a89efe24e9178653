"""What of a title could be left out, in words."""

from __future__ import annotations

from rheon.core.analysis.proposals import Proposal, Why
from rheon.core.catalogue import say, say_count
from rheon.core.errors import RheonError
from rheon.core.wording import moment_text

from . import documents
from .actions.proposing import proposals_of, series_of
from .models import Title


def proposals_document(title: Title) -> documents.CutProposals:
    """Nothing where the title can't be read: there is nothing to propose then, and others say why."""
    try:
        found, looking = proposals_of(title)
    except (RheonError, OSError):
        found, looking = (), False
    others = 0 if title.outline.get("part_count") else len(series_of(title))
    said = [_proposal(one, title.duration_s) for one in found]
    return documents.CutProposals(looking=looking, found=said, other_episodes=others)


def _proposal(one: Proposal, duration_s: float) -> documents.CutProposal:
    begin, end, reason = moment_text(round(one.from_s, 1)), moment_text(round(one.until_s, 1)), _why(one)
    if one.from_s == 0:
        text, reason = say("Begin at {moment}", moment=end), say("{reason} until there", reason=reason)
    elif one.until_s == duration_s:
        text, reason = say("End at {moment}", moment=begin), say("{reason} from there on", reason=reason)
    elif one.until_s < duration_s / 2:
        text = say("Leave out the opening, {begin} to {end}", begin=begin, end=end)
    else:
        text = say("Leave out {begin} to {end}", begin=begin, end=end)
    return documents.CutProposal(from_s=one.from_s, until_s=one.until_s, text=text, reason=reason)


def _why(one: Proposal) -> str:
    if one.why is Why.QUIET:
        return say("black and silent")
    if one.why is Why.CREDITS:
        return (
            say("as in other episodes, only text on a dark ground") if one.others else say("only text on a dark ground")
        )
    return say_count(
        "the same pictures and sound as in another episode",
        "the same pictures and sound as in {count} other episodes",
        one.others,
    )
