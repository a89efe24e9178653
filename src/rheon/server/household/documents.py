"""The Household's documents: what its calls give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, JsonValue

from rheon.core.descriptions import Ability
from rheon.core.devices import Change, DeviceKind, Evidence, Question
from rheon.core.planning import SoundWish, SubtitleWish
from rheon.server.api.documents import Document


class Profile(Document):
    id: str
    name: str
    kind: DeviceKind
    year: int | None
    generic: bool
    about: str
    summary: str


class ProfileText(Document):
    """A profile's JSON document as text."""

    document: str


class Wishes(Document):
    """Empty where whoever is asked next decides."""

    languages: list[str]
    sound: SoundWish | Literal[""]
    subtitles: SubtitleWish | Literal[""]


class Device(Document):
    """``document`` is the profile by its published schema, without what is not said."""

    id: int
    name: str
    profile: Profile
    abilities: list[Ability]
    questions: list[Question]
    evidence: tuple[Evidence, ...]
    news: list[Change]
    can_take_back: bool
    kind_name: str
    is_changed: bool
    favourite: bool
    document: dict[str, JsonValue]
    wishes: Wishes
    member_id: int | None
    free_bytes: int | None
    storage_bytes: int | None
    used: int


class Member(Document):
    id: int
    name: str
    wishes: Wishes
    device_ids: list[int]


class Span(Document):
    """Years to choose from; ``year`` stands for all of them."""

    since: int
    year: int
    text: str


class Family(Document):
    kind: DeviceKind
    label: str
    count: int
    spans: list[Span]


class Household(Document):
    languages: list[str]
    wishes: Wishes
    devices: list[Device]
    members: list[Member]
    catalogue: list[Profile]
    families: list[Family]
    goals: list[Profile]


class Found(Document):
    """The kind that fits best. ``guessed_age``: nobody said the age, and others of other years fit too."""

    profile: Profile
    abilities: list[Ability]
    others: list[Profile]
    questions: list[Question]
    guessed_age: bool


class Heard(Document):
    """What was understood. ``yes`` and ``no`` are questions that words or answers have settled, ``answered`` those
    that were answered one by one.
    """

    kind: DeviceKind | None
    year: int | None
    yes: list[str]
    no: list[str]
    answered: list[Question]
    found: list[Found]
    standards: list[Profile]


class FieldNote(Document):
    field: str
    text: str


class ProfileCheck(Document):
    """``errors`` keep a profile from being saved, ``warnings`` only say what is odd."""

    errors: list[FieldNote]
    warnings: list[FieldNote]
    abilities: list[Ability]


class Pairing(Document):
    """``document`` is the profile that the device's answers make, by its published schema."""

    open: bool
    address: str
    code: str
    until: datetime | None
    qr: Annotated[str, Field(description="An SVG path of dark squares, one unit each")]
    qr_size: int
    at_clip: int
    clip_count: int
    problem: str
    document: dict[str, JsonValue] | None
    abilities: list[Ability]
    evidence: tuple[Evidence, ...]
