"""A service's answer: the JSON document of ``docs/look-up.md``, which is trusted in nothing. Pure."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from typing import Any

from ..errors import LookUpFailed
from ..media.tags import LONGEST_TAG, LONGEST_TEXT, MOST_NUMBER, shortened
from ..naming.names import seen_text
from .works import ListedEpisode, Work, WorkKind

MOST_WORKS, MOST_EPISODES, MOST_NAMES = 50, 1000, 200
LONGEST_S = 360_000


def read_answer(body: bytes) -> tuple[Work, ...]:
    """The works of an answer. What is no work is left out; raises ``LookUpFailed`` where it is no list of works."""
    try:
        said = json.loads(body.decode())
    except (ValueError, RecursionError):
        said = None
    listed = said.get("works") if isinstance(said, dict) else None
    if not isinstance(listed, list):
        raise LookUpFailed("The look-up service answered with something that is no list of works.")
    works = tuple(work for one in listed[:MOST_WORKS] if isinstance(one, dict) and (work := _work(one)))
    if listed and not works:
        raise LookUpFailed("The look-up service answered with works that have no title or no kind.")
    return works


def _work(said: Mapping[str, Any]) -> Work | None:
    kind, title = next((kind for kind in WorkKind if said.get("kind") == kind), None), _line(said.get("title"))
    if kind is None or not title:
        return None
    return Work(
        kind=kind,
        title=title,
        year=_number(said.get("year")),
        season=_number(said.get("season")),
        edition=_line(said.get("edition")),
        genre=_names(said.get("genre")),
        director=_names(said.get("director")),
        cast=_names(said.get("cast")),
        description=_shown(said.get("description"), LONGEST_TEXT),
        duration_s=_seconds(said.get("duration_s")),
        episodes=_episodes(said.get("episodes")) if kind is WorkKind.SERIES else (),
    )


def _episodes(said: object) -> tuple[ListedEpisode, ...]:
    """In the order of their numbers, each number once."""
    listed = [one for one in said[:MOST_EPISODES] if isinstance(one, dict)] if isinstance(said, list) else []
    found: dict[int, ListedEpisode] = {}
    for one in listed:
        number = _number(one.get("number"))
        if number is not None and number not in found:
            length = _seconds(one.get("duration_s"))
            found[number] = ListedEpisode(number=number, title=_line(one.get("title")), duration_s=length)
    return tuple(found[number] for number in sorted(found))


def _line(said: object) -> str:
    return _shown(said, LONGEST_TAG)


def _shown(said: object, most_bytes: int) -> str:
    """On one line, without what can't be seen."""
    if not isinstance(said, str):
        return ""
    return shortened(" ".join(seen_text(said).split()), most_bytes)


def _names(said: object) -> str:
    """One name, or several with commas between them."""
    names: Sequence[object] = said[:MOST_NAMES] if isinstance(said, list) else [said]
    return shortened(", ".join(dict.fromkeys(name for one in names if (name := _line(one)))), LONGEST_TAG)


def _number(said: object) -> int | None:
    known = isinstance(said, int) and not isinstance(said, bool) and 0 <= said <= MOST_NUMBER
    return said if known else None  # type: ignore[return-value]


def _seconds(said: object) -> float | None:
    if isinstance(said, bool) or not isinstance(said, int | float):
        return None
    return float(said) if math.isfinite(said) and 0 < said <= LONGEST_S else None
