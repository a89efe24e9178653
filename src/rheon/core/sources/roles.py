"""What each title seems to be, from lengths and shared material, with reasons."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..media import CellData, Reason, Role, Share, Title

EPISODE_TOLERANCE = 0.30
LEAST_EPISODES = 3
SHORTEST_PROGRAMME_S = 3.0
WHOLE = 0.98


def with_roles(titles: Sequence[Title]) -> tuple[Title, ...]:
    """The titles with role, reasons and shares. Pure: the same titles give the same roles."""
    shares = {title.number: _shares(title, titles) for title in titles}
    contained = {number: _contained(number, shares, titles) for number in shares}
    candidates = [
        title
        for title in titles
        if _twin(title, contained, titles) is None
        and len(contained[title.number]) < 2
        and title.duration_s >= SHORTEST_PROGRAMME_S
    ]
    episodes = _episodes(candidates)
    longest = max(candidates, key=lambda title: title.duration_s, default=None)
    result = []
    for title in titles:
        twin = _twin(title, contained, titles)
        if twin is not None:
            role, reason = Role.DUPLICATE, Reason(code="same_material", values={"title": twin})
        elif len(contained[title.number]) >= 2:
            role = Role.PLAY_ALL
            reason = Reason(code="holds_titles", values={"titles": contained[title.number]})
        else:
            role, reason = _by_length(title, longest, episodes, candidates)
        result.append(replace(title, role=role, reasons=(reason,), shares=shares[title.number]))
    return tuple(result)


def _by_length(
    title: Title, longest: Title | None, episodes: list[Title], candidates: list[Title]
) -> tuple[Role, Reason]:
    if title.duration_s < SHORTEST_PROGRAMME_S:
        return Role.MENU, Reason(code="very_short", values={"duration_s": title.duration_s})
    if title in episodes:
        return Role.EPISODE, Reason(code="similar_lengths", values={"count": len(episodes)})
    if title is longest and not episodes:
        others = [other.duration_s for other in candidates if other is not title]
        if not others:
            return Role.FEATURE, Reason(code="only_title")
        facts: dict[str, object] = {
            "next_s": max(others),
            "chapters": len(title.chapters),
            "audio": len(title.audio),
        }
        return Role.FEATURE, Reason(code="longest", values=facts)
    if longest is not None:
        return Role.EXTRA, Reason(code="much_shorter", values={"longest_s": longest.duration_s})
    return Role.EXTRA, Reason(code="no_evidence")


def _episodes(candidates: list[Title]) -> list[Title]:
    """The titles of a series: at least three of similar length among the longest."""
    longest = max((title.duration_s for title in candidates), default=0.0)
    group = [title for title in candidates if title.duration_s >= longest * (1 - EPISODE_TOLERANCE)]
    return group if len(group) >= LEAST_EPISODES else []


def _shares(title: Title, titles: Sequence[Title]) -> tuple[Share, ...]:
    """Stretches of this title whose bytes other titles use as well, by cells."""
    if not isinstance(title.data, CellData):
        return ()
    found = []
    for other in titles:
        if other.number == title.number or not isinstance(other.data, CellData):
            continue
        theirs = {extent for cell in other.data.cells for extent in cell.extents}
        common = [cell for cell in title.data.cells if cell.extents and all(piece in theirs for piece in cell.extents)]
        if common:
            found.append(
                Share(
                    title=other.number,
                    from_s=round(common[0].start_s, 3),
                    to_s=round(common[-1].start_s + common[-1].duration_s, 3),
                )
            )
    return tuple(found)


def _contained(number: int, shares: dict[int, tuple[Share, ...]], titles: Sequence[Title]) -> list[int]:
    """Titles whose whole material lies in title ``number``."""
    lengths = {title.number: title.duration_s for title in titles}
    return [
        other
        for other, theirs in shares.items()
        if other != number
        and any(share.title == number and share.to_s - share.from_s >= lengths[other] * WHOLE for share in theirs)
    ]


def _twin(title: Title, contained: dict[int, list[int]], titles: Sequence[Title]) -> int | None:
    """An earlier title that holds the same material and no more."""
    for other in titles:
        if other.number >= title.number:
            return None
        if other.number in contained[title.number] and title.number in contained[other.number]:
            return other.number
    return None
