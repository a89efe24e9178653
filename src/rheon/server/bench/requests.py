"""What the Bench may be asked for."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, WithJsonSchema

from rheon.core.planning import Balance
from rheon.core.system import is_text
from rheon.server.api.documents import Body, Line, Query, RowId, Text

MOST_ROWS = 200
MOST_PLACE = 999
MOST_PINS, LONGEST_KEY, LONGEST_PIN = 100, 80, 4000

NUMBERS = r"^\d{1,12}(,\d{1,12})*$"


def _checked(text: str) -> str:
    if not re.fullmatch(NUMBERS, text):
        raise ValueError("say numbers with commas between them")
    return text


_Numbers = Annotated[str, AfterValidator(_checked), WithJsonSchema({"type": "string", "pattern": NUMBERS})]
"""Row numbers with commas between them."""


def _numbers(text: str) -> list[int]:
    return [int(part) for part in text.split(",")][:MOST_ROWS]


class BenchBalance(Body):
    balance: Balance


class PickChange(Body):
    title_ids: Annotated[list[RowId], Field(max_length=5000)]
    picked: bool


class CellsWanted(Query):
    """Of which titles, and at which balance (the Bench's where none is named)."""

    titles: _Numbers
    balance: Balance | None = None

    @property
    def title_ids(self) -> list[int]:
        return _numbers(self.titles)


class Switched(Query):
    """Which of a file's sounds is heard and which of its subtitles are on, by their places in the file."""

    sound: Annotated[int, Field(ge=0, le=MOST_PLACE)] = 0
    subtitle: Annotated[int, Field(ge=0, le=MOST_PLACE)] | None = None


def _no_lone_surrogate(key: str) -> str:
    if not is_text(key):
        raise ValueError("these are no decisions of a plan")
    return key


class SheetChange(Body):
    """``pins`` maps decision keys to values; ``null`` lets Rheon choose again."""

    balance: Balance | None = None
    pins: Annotated[
        dict[
            Annotated[str, Field(max_length=LONGEST_KEY), AfterValidator(_no_lone_surrogate)],
            Annotated[Text, Field(min_length=1, max_length=LONGEST_PIN)] | None,
        ],
        Field(max_length=MOST_PINS),
    ] = {}


class FidelityWanted(Body):
    """The mean score that is asked for, in the unit that was measured in."""

    score: Annotated[float, Field(ge=0, le=100)]


class TimeWanted(Body):
    """How long making the file may take."""

    most_s: Annotated[float, Field(gt=0, le=1e7)]


class Transfer(Body):
    to: Literal["siblings", "picked"]


class KeepSet(Body):
    name: Annotated[Line, Field(min_length=1, max_length=80)]


class SetFile(Body):
    document: Annotated[Line, Field(min_length=1, max_length=20_000)]


class TargetWanted(Body):
    """A goal by its id, or the devices that are to share a file."""

    goal_id: Annotated[Line, Field(max_length=80)] = ""
    device_ids: Annotated[list[RowId], Field(max_length=50)] = []


class SharingWanted(Query):
    """For which devices; all of the household's where none are named."""

    devices: _Numbers | None = None

    @property
    def device_ids(self) -> list[int] | None:
        return None if self.devices is None else _numbers(self.devices)
