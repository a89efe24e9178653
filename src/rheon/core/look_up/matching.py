"""How a work that a service knows stands to titles that are here: by name, year, length and number of episodes. Pure.

What agrees and what does not is told as facts; nothing is taken because it stands first.
"""

from __future__ import annotations

import itertools
import re
import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from difflib import SequenceMatcher

from ..media import ContentKind, Reason
from .works import ListedEpisode, Work, WorkKind, WorkQuestion

TELEVISION_RATE, FILM_RATE = 25, 24
"""Frames a second: films are shown at 25 where television has these, and so are shorter there by a 25th."""
LIKE_SHARE, LIKE_S = 0.02, 3.0
"""Lengths that are so near to each other are of the same cut: what stands before and after a film differs."""
SPED_SHARE = 0.01
"""The same where one of both was sped up: that alone is 0.04, and is not to be taken for any other cut."""
MINUTE_S = 60
ALIKE, KNOWN_BY = 0.86, 0.6
"""How alike names are that are taken for the same one, and those that may be."""
ARTICLES = frozenset({"a", "an", "the", "der", "die", "das", "le", "la", "les", "el", "los", "las", "il", "lo", "i"})
UNKNOWN, DIFFERS = 0.9, 0.35
"""What a fact that isn't known, and one that speaks against it, leave of how sure a match is."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Here:
    """A title that is here: its length in seconds, its frame rate in hertz (0: none), and its number where it is an
    episode and that is known.
    """

    number: int
    duration_s: float
    frame_rate: float = 0.0
    episode: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """What was compared; ``agrees`` is ``None`` where one of both sides does not tell it."""

    reason: Reason
    agrees: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """``sure`` from 0 to 1. ``tags`` are what titles would get, by their number."""

    work: Work
    sure: float
    facts: tuple[Fact, ...]
    tags: Mapping[int, Mapping[str, str | int]] = field(default_factory=dict)

    @property
    def agrees(self) -> bool:
        """Whether nothing speaks against it, and a length or a number of episodes for it."""
        told = {fact.reason.code: fact.agrees for fact in self.facts}
        proven = any(told.get(code) for code in PROOFS)
        return proven and False not in told.values() and UNPLACED not in told


PROOFS = frozenset({"work_length", "work_length_sped_here", "work_length_sped_there", "work_episode_lengths"})
UNPLACED = "work_episodes_anywhere"


def matches(works: Sequence[Work], question: WorkQuestion, here: Sequence[Here]) -> tuple[Match, ...]:
    """Each work of the kind that was asked for, the surest first."""
    found = [_matched(work, question, here) for work in works if work.kind is question.kind]
    return tuple(sorted(found, key=lambda match: -match.sure))


def _matched(work: Work, question: WorkQuestion, here: Sequence[Here]) -> Match:
    name = _name(work, question)
    facts = [name, *_year(work, question)]
    if work.kind is WorkKind.SERIES:
        placed, more = _placed(work, question, here)
        facts += more
        tags = {one.number: _of_episode(work, listed) for one, listed in placed}
    else:
        facts += [_length(work.duration_s, one) for one in here[:1]]
        tags = {one.number: _of_film(work) for one in here}
    sure = likeness(work.title, question.title)
    for fact in facts[1:]:
        sure *= 1.0 if fact.agrees else UNKNOWN if fact.agrees is None else DIFFERS
    return Match(work=work, sure=round(sure, 4), facts=tuple(facts), tags=tags)


def likeness(one: str, other: str) -> float:
    """How alike two names are, from 0 to 1, whatever their capitals, accents, articles and punctuation."""
    first, second = _folded(one), _folded(other)
    if not first or not second:
        return 1.0 if first == second else 0.0
    if first == second:
        return 1.0
    return SequenceMatcher(None, first, second, autojunk=False).ratio()


def _folded(name: str) -> str:
    plain = unicodedata.normalize("NFKD", name).casefold()
    words = re.findall(r"\w+", "".join(letter for letter in plain if not unicodedata.combining(letter)))
    return " ".join(words[1:] if len(words) > 1 and words[0] in ARTICLES else words)


def _name(work: Work, question: WorkQuestion) -> Fact:
    alike = likeness(work.title, question.title)
    if alike >= ALIKE:
        return Fact(reason=Reason(code="work_name"), agrees=True)
    return Fact(reason=Reason(code="work_name_other"), agrees=None if alike >= KNOWN_BY else False)


def _year(work: Work, question: WorkQuestion) -> Iterator[Fact]:
    if question.year is None:
        return
    if work.year is None:
        yield Fact(reason=Reason(code="work_year_untold"), agrees=None)
        return
    apart = abs(work.year - question.year)
    values: dict[str, object] = {"there": work.year, "here": question.year}
    # the year it was made and the year it came out are both given as a film's
    yield Fact(
        reason=Reason(code="work_year" if not apart else "work_year_other", values=values),
        agrees=True if not apart else None if apart == 1 else False,
    )


def _length(there_s: float | None, here: Here) -> Fact:
    if there_s is None:
        return Fact(reason=Reason(code="work_length_untold"), agrees=None)
    values: dict[str, object] = {"there_s": there_s, "here_s": here.duration_s}
    # one that is told in minutes may be rounded either way
    rounded_s = MINUTE_S if there_s % MINUTE_S == 0 else LIKE_S
    if abs(there_s - here.duration_s) <= LIKE_SHARE * there_s + rounded_s:
        return Fact(reason=Reason(code="work_length", values=values), agrees=True)
    sped = bool(here.frame_rate) and round(here.frame_rate) % TELEVISION_RATE == 0
    usual_s = there_s * FILM_RATE / TELEVISION_RATE if sped else there_s * TELEVISION_RATE / FILM_RATE
    if here.frame_rate and abs(usual_s - here.duration_s) <= SPED_SHARE * usual_s + rounded_s:
        code = "work_length_sped_here" if sped else "work_length_sped_there"
        return Fact(reason=Reason(code=code, values=values), agrees=True)
    return Fact(reason=Reason(code="work_length_other", values=values), agrees=False)


def _placed(
    work: Work, question: WorkQuestion, here: Sequence[Here]
) -> tuple[list[tuple[Here, ListedEpisode]], list[Fact]]:
    """Which of a season's episodes the titles are, and what speaks for it."""
    facts: list[Fact] = []
    if question.season is not None and work.season is not None and work.season != question.season:
        values: dict[str, object] = {"there": work.season, "here": question.season}
        facts.append(Fact(reason=Reason(code="work_season_other", values=values), agrees=False))
    listed = {one.number: one for one in work.episodes}
    counts: dict[str, object] = {"there": len(listed), "here": len(here)}
    if not listed:
        return [], [*facts, Fact(reason=Reason(code="work_episodes_untold"), agrees=None)]
    if len(here) > len(listed):
        facts.append(Fact(reason=Reason(code="work_episodes_more_here", values=counts), agrees=False))
    else:
        code = "work_episodes" if len(here) == len(listed) else "work_episodes_some"
        facts.append(Fact(reason=Reason(code=code, values=counts), agrees=len(here) == len(listed) or None))
    numbered, other = _best_place(list(listed.values()), here)
    placed = [(one, listed[number]) for one, number in numbered.items() if number in listed]
    facts += _lengths(placed, numbered)
    if other is not None:
        begins: dict[str, object] = {"first": min(numbered.values()), "other": other}
        facts.append(Fact(reason=Reason(code=UNPLACED, values=begins), agrees=None))
    return placed, facts


def _lengths(placed: Sequence[tuple[Here, ListedEpisode]], numbered: Mapping[Here, int]) -> Iterator[Fact]:
    like = [_length(listed.duration_s, one).agrees for one, listed in placed if listed.duration_s is not None]
    if not like:
        yield Fact(reason=Reason(code="work_length_untold"), agrees=None)
    else:
        values: dict[str, object] = {"like": sum(map(bool, like)), "of": len(like)}
        code = "work_episode_lengths" if all(like) else "work_episode_lengths_other"
        yield Fact(reason=Reason(code=code, values=values), agrees=all(like))
    moved = [(one.episode, number) for one, number in numbered.items() if one.episode not in (None, number)]
    if moved:
        numbers: dict[str, object] = {"here": moved[0][0], "there": moved[0][1]}
        yield Fact(reason=Reason(code="work_episodes_moved", values=numbers), agrees=None)


def _best_place(listed: Sequence[ListedEpisode], here: Sequence[Here]) -> tuple[dict[Here, int], int | None]:
    """A number for each title: those it has where the lengths allow it, else the run that they fit best; and with
    which number a run begins that fits as well, where nobody knew the numbers.

    Titles follow each other as their numbers do; one without a number takes the first that is free.
    """
    taken = {one.episode for one in here}
    free = (number for number in itertools.count(1) if number not in taken)
    usual = [next(free) if one.episode is None else one.episode for one in here]
    lengths = {one.number: one.duration_s for one in listed}
    places = [usual, *(_run(usual, one.number) for one in listed)]
    fits = [sum(_fits(lengths, n, one) for n, one in zip(numbers, here, strict=True)) for numbers in places]
    # of those that fit equally well, the first: as it is numbered here
    best = places[fits.index(max(fits))]
    as_well = (numbers for numbers, fit in zip(places, fits, strict=True) if fit == max(fits) and numbers != best)
    other = next(as_well, None) if None in taken else None
    return dict(zip(here, best, strict=True)), min(other) if other else None


def _run(numbers: Sequence[int], begin: int) -> list[int]:
    """The same numbers, moved so that the lowest is ``begin``."""
    moved = begin - min(numbers, default=0)
    return [number + moved for number in numbers]


def _fits(lengths: Mapping[int, float | None], number: int, one: Here) -> float:
    """For a title as the episode of a number: 1 where the lengths are of one cut, less where it isn't told."""
    if number not in lengths:
        return -1.0
    there_s = lengths[number]
    return 0.5 if there_s is None else 1.0 if _length(there_s, one).agrees else 0.0


def _of_film(work: Work) -> dict[str, str | int]:
    said: dict[str, str | int | None] = {"kind": ContentKind.FILM.value, "title": work.title, "edition": work.edition}
    return _told({**said, **_of_both(work)})


def _of_episode(work: Work, listed: ListedEpisode) -> dict[str, str | int]:
    said: dict[str, str | int | None] = {
        "kind": ContentKind.EPISODE.value,
        "show": work.title,
        "season": work.season,
        "episode": listed.number,
        "title": listed.title,
    }
    return _told({**said, **_of_both(work)})


def _of_both(work: Work) -> dict[str, str | int | None]:
    return {
        "year": work.year,
        "genre": work.genre,
        "director": work.director,
        "cast": work.cast,
        "description": work.description,
    }


def _told(said: Mapping[str, str | int | None]) -> dict[str, str | int]:
    return {tag: value for tag, value in said.items() if value not in ("", None)}
