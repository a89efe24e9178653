"""What a source's titles seem to be called, and what becomes of that when people join titles or know better."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ..media import Proposed, ProposedTags, Reason, Role, Source, SourceKind
from .discs import disc_work, tags_of_disc
from .files import tags_of_file
from .sureness import ORDER


def propose(source: Source, episodes_before: int | None = None) -> dict[int, ProposedTags]:
    """Tags for each title, by its number. ``episodes_before`` are those of its season on the discs before this one,
    where they are known.
    """
    if source.kind is SourceKind.FILES:
        return {title.number: tags_of_file(title, source.path) for title in source.titles}
    return dict(tags_of_disc(source, episodes_before))


def season_disc(source: Source) -> tuple[str, int, int] | None:
    """Show, season and disc of a disc of a series, by which its neighbours are known; ``None`` for any other."""
    if source.kind is SourceKind.FILES or not any(title.role is Role.EPISODE for title in source.titles):
        return None
    work = disc_work(source)
    season, disc = (int(work[part].value) if part in work else 1 for part in ("season", "disc"))
    return (str(work["title"].value).casefold(), season, disc)


def joined_tags(name: str, parts: Sequence[ProposedTags]) -> ProposedTags:
    """What a join of titles is called: by its own name, and whatever all of its parts have alike."""
    first = parts[0].found if parts else {}
    alike = {
        key: one
        for key, one in first.items()
        if key not in ("title", "episode", "part", "kind") and all(part.found.get(key) == one for part in parts)
    }
    reason = Reason(code="tag_joined")
    return ProposedTags(found={**alike, "title": Proposed(value=name, reason=reason, sure=ORDER)})


def set_by_hand(values: Mapping[str, str | int]) -> ProposedTags:
    """What somebody has set for a title; an empty value says that there is none."""
    reason = Reason(code="tag_by_hand")
    return ProposedTags(found={key: Proposed(value=value, reason=reason) for key, value in values.items()})


def looked_up(values: Mapping[str, str | int], service: str, work: str) -> ProposedTags:
    """What somebody has taken from a work that a look-up service knows."""
    reason = Reason(code="tag_looked_up", values={"service": service, "work": work})
    return ProposedTags(found={key: Proposed(value=value, reason=reason) for key, value in values.items()})
