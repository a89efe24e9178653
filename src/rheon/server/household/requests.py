"""What the Household may be asked for."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from rheon.core.devices import QUESTIONS, DeviceKind
from rheon.core.media import known_languages
from rheon.core.planning import SoundWish, SubtitleWish
from rheon.server.api.documents import Body, Line, Query, RowId, Text

LARGEST_BYTES = 1 << 50

_Languages = Annotated[
    list[Annotated[str, Field(max_length=20)]], Field(max_length=10), AfterValidator(known_languages)
]
"""BCP 47 tags; what is no language is left out."""
_Name = Annotated[Line, Field(min_length=1, max_length=80)]
_Nickname = Annotated[Line, Field(max_length=80)]
QuestionId = StrEnum("QuestionId", {name.upper(): name for name in QUESTIONS})  # type: ignore[misc]
_Questions = Annotated[list[QuestionId], Field(max_length=len(QUESTIONS))]


class HouseholdChange(Body):
    """Only what is named changes; an empty wish leaves it to whoever is asked next."""

    languages: _Languages = []
    sound: SoundWish | Literal[""] = ""
    subtitles: SubtitleWish | Literal[""] = ""


class NewMember(Body):
    name: _Name


class MemberChange(HouseholdChange):
    name: _Name = ""


class DeviceChange(HouseholdChange):
    """Only what is named changes; ``null`` takes member or free space back."""

    name: _Name = ""
    member_id: RowId | None = None
    free_bytes: Annotated[int, Field(ge=0, le=LARGEST_BYTES)] | None = None
    favourite: bool = False


class NewDevice(Body):
    """Of the catalogue, with the questions that were answered by yes and by no."""

    profile_id: _Name
    name: _Nickname = ""
    yes: _Questions = []
    no: _Questions = []


class ProfileDocument(Body):
    """A profile's JSON document as text."""

    document: Annotated[Line, Field(min_length=1, max_length=100_000)]


class OwnDevice(ProfileDocument):
    name: _Nickname = ""


class AnswersSaid(Query):
    """What a person says of a device: in a sentence, or answer by answer. What is left out is not known."""

    typed: Annotated[Text, Field(max_length=200)] = ""
    kind: DeviceKind | None = None
    year: Annotated[int, Field(ge=1995, le=2100)] | None = None
    yes: _Questions = []
    no: _Questions = []
    unknown: _Questions = []


class Answer(Body):
    question: QuestionId
    yes: bool


class Trial(Body):
    """How the test file for a doubtful line did: it played, or it did not."""

    line: _Name
    works: bool
