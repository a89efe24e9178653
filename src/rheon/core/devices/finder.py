"""From a few plain answers, or a sentence that somebody typed, to the kind of device it most probably is. Pure."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from .certainty import open_questions
from .kinds import Family, Generation, families
from .profile import DeviceKind, DeviceProfile

MOST_QUESTIONS = 3
"""Questions that are put at once; whoever wants to can go on answering."""
SPECIAL = ("for_children", "hd_ready", "keys", "palm")
"""Traits of special makes, which nobody is supposed to have unasked."""
COMMON_YEARS = 12
"""How long a device stays in use, about: where nobody knows its age, older kinds are not supposed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Answers:
    """What a person said of a device. ``year`` is when it was new; ``said`` holds answers, ``None`` for don't know."""

    kind: DeviceKind | None = None
    year: int | None = None
    said: Mapping[str, bool | None] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """The kind that fits best, the others that fit too, and the questions that would make it surer."""

    profile: DeviceProfile
    others: tuple[DeviceProfile, ...]
    questions: tuple[str, ...]
    guessed_age: bool


def find(answers: Answers, this_year: int) -> Found | None:
    """The careful choice among all that fit; ``None`` while not even the kind is said."""
    if answers.kind is None or answers.kind not in families():
        return None
    family = families()[answers.kind]
    fitting = _fitting(family, answers)
    best = _careful_choice(fitting, answers.said, this_year)
    others = tuple(one.profile for one in fitting if one is not best)
    between = _telling_apart(fitting, answers.said)
    doubts = [name for name in open_questions(best.profile) if name not in answers.said]
    return Found(
        profile=best.profile,
        others=others,
        questions=tuple(dict.fromkeys([*between, *doubts]))[:MOST_QUESTIONS],
        guessed_age=answers.year is None and len({(one.since, one.until) for one in fitting}) > 1,
    )


def _new_in(one: Generation, year: int) -> bool:
    return one.since <= year and (one.until is None or year <= one.until)


def _fitting(family: Family, answers: Answers) -> list[Generation]:
    """Every generation that no answer contradicts; where the years fit none, the nearest older one, else the oldest."""
    said = {name: value for name, value in answers.said.items() if value is not None}
    alike = [
        one for one in family.generations if all(one.traits.get(name, value) is value for name, value in said.items())
    ]
    alike = alike or list(family.generations)
    if answers.year is None:
        return alike
    year = answers.year
    of_the_year = [one for one in alike if _new_in(one, year)]
    if of_the_year:
        return of_the_year
    older = [one for one in alike if one.since <= year]
    return [max(older, key=lambda one: one.until or year)] if older else [min(alike, key=lambda one: one.since)]


def _careful_choice(fitting: Sequence[Generation], said: Mapping[str, bool | None], this_year: int) -> Generation:
    """The one that promises least among those still in use; a special make is not supposed unasked."""
    unasked = [name for name in SPECIAL if not said.get(name)]
    usual = [one for one in fitting if not any(one.traits.get(name) for name in unasked)] or list(fitting)
    in_use = [one for one in usual if one.until is None or one.until >= this_year - COMMON_YEARS] or usual
    return min(in_use, key=lambda one: (one.until or this_year, one.since, _promise(one.profile)))


def _promise(profile: DeviceProfile) -> int:
    return max((entry.max_width * entry.max_height for entry in profile.video), default=0)


def _telling_apart(fitting: Sequence[Generation], said: Mapping[str, bool | None]) -> list[str]:
    """The questions whose answers would leave out some of the fitting, the most even split first."""
    names = dict.fromkeys(name for one in fitting for name in one.traits if name not in said)

    def split(name: str) -> int:
        values = [one.traits[name] for one in fitting if name in one.traits]
        return min(values.count(True), values.count(False))

    return sorted((name for name in names if split(name)), key=lambda name: -split(name))
