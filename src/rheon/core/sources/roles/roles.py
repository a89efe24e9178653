"""What each title seems to be, from lengths and shared material, with reasons. Pure."""

from __future__ import annotations

import statistics
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...media import CellData, Reason, Role, Title
from .parts import ChapterRange, cut, proposed_ranges
from .shared import WHOLE, Material, compare

EPISODE_TOLERANCE = 0.30
PIECE_SHARE = 0.6
"""A title inside another one is that one shortened, and no piece of it, from this share of its length on."""
LEAST_EPISODES = 3
SHORTEST_PROGRAMME_S = 3.0
MENU_S = 45.0
STANDS = 255
FIRST_PART_NUMBER = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class _Evidence:
    """What is known of all titles together."""

    material: Material
    candidates: tuple[Title, ...]
    episodes: tuple[Title, ...]
    longest: Title | None
    ranges: dict[int, tuple[ChapterRange, ...]]
    copies: int
    """How many titles are copies of others."""


def with_roles(titles: Sequence[Title]) -> tuple[Title, ...]:
    """The titles with role, reasons and shares, and after them the episodes found as ranges of chapters.

    Pure: the same titles give the same roles.
    """
    seen = _evidence(titles)
    judged = [_judged(title, seen, titles) for title in titles]
    return (*judged, *_parts(judged, seen))


def part_number(title: int, part: int) -> int:
    """The number of a title's part, counted from 1: 301 is the first part of title 3."""
    return FIRST_PART_NUMBER * title + part


def _evidence(titles: Sequence[Title]) -> _Evidence:
    material = compare(titles)
    pictured = any(title.video for title in titles)
    copies = {title.number for title in titles if _twin(title, material, titles) is not None}
    candidates = tuple(
        title
        for title in titles
        if title.number not in copies
        and len(material.parts_of(title.number)) < 2
        and title.duration_s >= SHORTEST_PROGRAMME_S
        and not _is_menu(title)
        and (title.video is not None or not pictured)
    )
    episodes = _episodes(candidates)
    longest = max(candidates, key=lambda title: title.duration_s, default=None)
    ranges = {}
    if longest is not None and not episodes and not longest.fault:
        ranges = {longest.number: proposed_ranges(longest)}
    return _Evidence(
        material=material,
        candidates=candidates,
        episodes=episodes,
        longest=longest,
        ranges=ranges,
        copies=len(copies),
    )


def _judged(title: Title, seen: _Evidence, titles: Sequence[Title]) -> Title:
    parts = seen.material.parts_of(title.number)
    twin = _twin(title, seen.material, titles)
    if twin is not None:
        role, reason = Role.DUPLICATE, _twin_reason(title, twin, seen.material)
    elif len(parts) >= 2:
        role, reason = Role.PLAY_ALL, Reason(code="holds_titles", values={"titles": parts})
    elif seen.ranges.get(title.number):
        found = seen.ranges[title.number]
        role, reason = Role.PLAY_ALL, Reason(code="chapters_repeat", values={"count": len(found)})
    else:
        role, reason = _by_length(title, seen)
    return replace(title, role=role, reasons=(reason,), shares=seen.material.shares[title.number])


def _parts(judged: Sequence[Title], seen: _Evidence) -> list[Title]:
    by_number = {title.number: title for title in judged}
    return [
        cut(by_number[number], found, part_number(number, at))
        for number, ranges in seen.ranges.items()
        for at, found in enumerate(ranges, start=1)
    ]


def _by_length(title: Title, seen: _Evidence) -> tuple[Role, Reason]:
    if _is_menu(title):
        return Role.MENU, Reason(code="stands_still")
    if title.duration_s < SHORTEST_PROGRAMME_S:
        return Role.MENU, Reason(code="very_short", values={"duration_s": title.duration_s})
    if title in seen.episodes:
        return Role.EPISODE, Reason(code="similar_lengths", values={"count": len(seen.episodes)})
    if title is seen.longest and not seen.episodes:
        others = [other.duration_s for other in seen.candidates if other is not title]
        if not others:
            return Role.FEATURE, Reason(code="only_programme" if seen.copies else "only_title")
        facts: dict[str, object] = {
            "next_s": max(others),
            "chapters": len(title.chapters),
            "audio": len(title.audio),
        }
        return Role.FEATURE, Reason(code="longest", values=facts)
    if seen.episodes and seen.longest is not None:
        usual = statistics.median(other.duration_s for other in seen.episodes)
        if title.duration_s < usual:
            return Role.EXTRA, Reason(code="much_shorter", values={"longest_s": usual})
        return Role.EXTRA, Reason(code="unlike_episodes", values={"usual_s": usual})
    if seen.longest is not None:
        return Role.EXTRA, Reason(code="much_shorter", values={"longest_s": seen.longest.duration_s})
    return Role.EXTRA, Reason(code="no_evidence")


def _episodes(candidates: Sequence[Title]) -> tuple[Title, ...]:
    """The titles of a series: the largest group of three or more of similar length, unless a film outlasts them.

    A film with three trailers is no series: together the group must last longer than any other title. A double
    episode, which is longer, may stand beside a series.
    """
    best: list[Title] = []
    for title in candidates:
        group = [
            other
            for other in candidates
            if title.duration_s * (1 - EPISODE_TOLERANCE) <= other.duration_s <= title.duration_s
        ]
        if sum(t.duration_s for t in group) > sum(t.duration_s for t in best):
            best = group
    if len(best) < LEAST_EPISODES:
        return ()
    longest = max(title.duration_s for title in candidates)
    usual = statistics.median(title.duration_s for title in best)
    return tuple(best) if longest <= usual * 2.2 else ()


def _is_menu(title: Title) -> bool:
    """Whether it stands still until somebody goes on, or is a loop of a moment."""
    if not isinstance(title.data, CellData) or title.duration_s > MENU_S:
        return False
    cells = title.data.cells
    return bool(cells) and all(cell.still_s == STANDS for cell in cells)


def _twin(title: Title, material: Material, titles: Sequence[Title]) -> int | None:
    """A title before it with (nearly) the same material, or after it where that one holds more."""
    for other in titles:
        if other.number == title.number:
            continue
        if _is_piece(title, other, material):
            return other.number
        if not material.near_copy(title.number, other.number):
            continue
        more = other.duration_s - title.duration_s
        if more > 0.5 or (abs(more) <= 0.5 and other.number < title.number):
            return other.number
    return None


def _is_piece(title: Title, other: Title, material: Material) -> bool:
    """Whether a title is another one with something left out: all of it lies in that one, and most of that in it."""
    shorter = PIECE_SHARE * other.duration_s <= title.duration_s < other.duration_s * WHOLE
    return shorter and material.holds(other.number, title.number) and len(material.parts_of(other.number)) < 2


def _twin_reason(title: Title, twin: int, material: Material) -> Reason:
    lengths = material.lengths
    mine = lengths[title.number] - material.common_s(title.number, twin)
    theirs = lengths[twin] - material.common_s(twin, title.number)
    if mine < 0.5 and theirs < 0.5:
        return Reason(code="same_material", values={"title": twin})
    return Reason(code="nearly_same_material", values={"title": twin, "without_s": theirs, "with_s": mine})
