"""What a file says of itself to the people who look for it: its tags, and where each proposed one comes from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from enum import StrEnum

from ..catalogue import say
from .source import Reason

LONGEST_TAG = 255
"""Bytes of a line in MP4's ``desc``, the shortest that any container or player holds to."""
LONGEST_TEXT = 4000
MOST_NUMBER = 9999


class ContentKind(StrEnum):
    FILM = "film"
    EPISODE = "episode"
    EXTRA = "extra"
    SOUND = "sound"


@dataclass(frozen=True, slots=True, kw_only=True)
class Tags:
    """What is written into a file. Empty texts and ``None`` are not written.

    ``title`` is the work's own: an episode's, not its show's. ``cast`` are names with commas between them, ``artist``
    who plays or sings. ``part`` counts the pieces of one work, ``edition`` tells versions of it apart.
    """

    kind: ContentKind = ContentKind.FILM
    title: str = ""
    show: str = ""
    season: int | None = None
    episode: int | None = None
    part: int | None = None
    year: int | None = None
    edition: str = ""
    genre: str = ""
    director: str = ""
    cast: str = ""
    artist: str = ""
    description: str = ""
    comment: str = ""

    @property
    def shown_title(self) -> str:
        """The title as a player is to show it: with its edition and part, which no container has a place of its own
        for; an episode without a title is its number.
        """
        said = self.title or (f"{self.show} {self.numbered}".strip() if self.kind is ContentKind.EPISODE else "")
        marks = [self.edition, say("part {part}", part=self.part) if self.part is not None else ""]
        return " ".join([said, *(f"({mark})" for mark in marks if mark)]).strip()

    @property
    def numbered(self) -> str:
        """``S01E02``, ``E02`` without a season; empty without an episode."""
        if self.episode is None:
            return ""
        return ("" if self.season is None else f"S{self.season:02}") + f"E{self.episode:02}"

    def or_called(self, name: str) -> Tags:
        """With a name for its title where it has neither title nor number."""
        return self if self.title or self.numbered else replace(self, title=name)


def shortened(text: str, most_bytes: int) -> str:
    """As much of a text as fits into so many bytes of UTF-8, to the end of a word where it has any."""
    if len(text.encode()) <= most_bytes:
        return text
    cut = text.encode()[: most_bytes - len("…".encode())].decode(errors="ignore")
    return f"{cut.rpartition(' ')[0] or cut}…"


def dated(year: int, before: object) -> str:
    """A year as a date; the whole one where that was written before and is of this year."""
    return str(before) if str(before).startswith(str(year)) else str(year)


TAG_FIELDS = tuple(one.name for one in fields(Tags))
NUMBERS = frozenset({"season", "episode", "part", "year"})
LONG_TEXTS = frozenset({"description", "comment"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposed:
    """A value of a tag, where it was found, and how sure it is (0 to 1)."""

    value: str | int
    reason: Reason
    sure: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ProposedTags:
    """What is known of a title, by the name of the tag."""

    found: Mapping[str, Proposed] = field(default_factory=dict)

    @property
    def tags(self) -> Tags:
        return tags_of({name: one.value for name, one in self.found.items()})

    def over(self, other: ProposedTags) -> ProposedTags:
        """Both, where this one counts first."""
        return ProposedTags(found={**other.found, **self.found})


def tags_of(values: Mapping[str, object]) -> Tags:
    """Tags from plain values, as they are kept; what is no tag or has no value is left out."""
    said = {name: value for name, value in values.items() if name in TAG_FIELDS and value not in ("", None)}
    if "kind" in said:
        said["kind"] = ContentKind(str(said["kind"]))
    return Tags(**said)  # type: ignore[arg-type]
