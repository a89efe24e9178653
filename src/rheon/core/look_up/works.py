"""The values of a look-up: what is asked, and the works that are known."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

LONGEST_ASKED = 200
"""Letters of a title that is asked for."""


class WorkKind(StrEnum):
    FILM = "film"
    SERIES = "series"


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkQuestion:
    """All that a service is told: of a series also its season. What is not known is ``None``."""

    kind: WorkKind
    title: str
    year: int | None = None
    season: int | None = None

    @property
    def words(self) -> Iterator[tuple[str, str]]:
        """As it is sent: each name with its value."""
        yield "kind", self.kind.value
        yield "title", " ".join(self.title.split())
        if self.year is not None:
            yield "year", str(self.year)
        if self.season is not None and self.kind is WorkKind.SERIES:
            yield "season", str(self.season)


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedEpisode:
    """``duration_s`` in seconds, ``None`` where it is not told."""

    number: int
    title: str = ""
    duration_s: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Work:
    """A film, or a season of a series with its episodes in their order. Empty texts and ``None`` are not known."""

    kind: WorkKind
    title: str
    year: int | None = None
    season: int | None = None
    edition: str = ""
    genre: str = ""
    director: str = ""
    cast: str = ""
    description: str = ""
    duration_s: float | None = None
    episodes: tuple[ListedEpisode, ...] = ()
