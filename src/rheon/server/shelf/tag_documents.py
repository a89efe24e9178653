"""Documents of what works are called: what its calls take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from rheon.core.look_up.works import LONGEST_ASKED, WorkKind
from rheon.core.media.tags import MOST_NUMBER
from rheon.core.planning.decisions import Choice
from rheon.server.api.documents import Body, Document, Line, Query, RowId, Text

from .documents import MOST_TITLES

MOST_CHANGES = 10_000


class Tag(Document):
    """A tag as it is typed, where it comes from, how sure that is, and whether somebody set it."""

    value: str
    reason: str
    sure: float
    by_hand: bool


class TitleTags(Document):
    """A title's tags by their names, and what a file of it is called by them."""

    title_id: int
    title_name: str
    source_id: int
    source_name: str
    duration_s: float
    file_name: str
    tags: dict[str, Tag]


class TagField(Document):
    """A tag that can be set: its name, how it is called and what it is; ``choices`` where it has few values."""

    name: str
    label: str
    help: str
    choices: tuple[Choice, ...]


class Tags(Document):
    """``look_below`` is how sure a value has to be for nobody to be asked to look at it."""

    fields: list[TagField]
    titles: list[TitleTags]
    look_below: float


class TagsWanted(Query):
    titles: Annotated[list[RowId], Field(max_length=MOST_TITLES)] = []


class TagChange(Body):
    """A tag of a title; ``null`` gives back what was found."""

    title_id: RowId
    tag: Line
    value: Annotated[Text, Field(max_length=4000)] | None


class TagChanges(Body):
    """All of them are made, or none. ``work`` is the one that they were taken from, where they were looked up."""

    changes: Annotated[list[TagChange], Field(max_length=MOST_CHANGES)]
    work: Annotated[Line, Field(max_length=40)] = ""


class LookUpWanted(Body):
    """Titles that are one film, or episodes of one season, and the words that are sent; ``again``: though the same was
    answered lately.
    """

    titles: Annotated[list[RowId], Field(min_length=1, max_length=MOST_TITLES)]
    kind: WorkKind
    title: Annotated[Line, Field(min_length=1, max_length=LONGEST_ASKED)]
    year: Annotated[int, Field(ge=0, le=MOST_NUMBER)] | None = None
    season: Annotated[int, Field(ge=0, le=MOST_NUMBER)] | None = None
    again: bool = False


class WorkFact(Document):
    """How a work stands to what is here, in one thing; ``agrees`` is null where one side does not tell it."""

    text: str
    agrees: bool | None


class WorkChange(Document):
    """What a title would get under a tag, and what it has."""

    title_id: int
    title_name: str
    tag: str
    label: str
    old: str
    new: str


class FoundWork(Document):
    """A work by its key, whether it agrees with what is here, and what would change. ``kept`` counts the values that
    somebody set otherwise, which stay.
    """

    key: str
    title: str
    about: str
    agrees: bool
    facts: list[WorkFact]
    changes: list[WorkChange]
    kept: int


class LookUp(Document):
    """What a service answered, and when."""

    service: str
    answered: datetime
    works: list[FoundWork]
