"""The installation's documents: what its calls take and give."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from rheon.server.api.documents import Body, Document, Line, Text
from rheon.settings import SettingLine


class Place(Document):
    """A folder and what it lies on; sizes are null where nothing is there to be asked."""

    path: str
    exists: bool
    writable: bool
    free_bytes: int | None
    file_system: str
    largest_file_bytes: int | None


class Home(Document):
    set_up: bool
    output: Place
    proposed_outputs: list[Place]
    has_passphrase: bool
    signed_in_elsewhere: int
    settings: list[SettingLine]


class HardwareCodec(Document):
    """What works: whether also with ten bits, how large files are beside those of software at the same fidelity, how
    long they take beside them, and the title with which that was measured (empty: not yet, or it could not be).
    """

    codec: str
    ten_bits: bool
    size_share: float | None
    time_share: float | None
    measured_with: str


class MissingCodec(Document):
    codec: str
    why: str


class HardwareFamily(Document):
    """What one interface of the system reaches."""

    label: str
    about: str
    codecs: list[HardwareCodec]
    missing: list[MissingCodec]


class Hardware(Document):
    """Encoders in hardware. ``never``: the settings say that none are to be tried; ``tried``: this was done already."""

    never: bool
    tried: bool
    preferred: bool
    measuring: bool
    families: list[HardwareFamily]


class HardwareChange(Body):
    """``preferred``: they make whatever they can. ``again``: try them, and measure what works, once more."""

    preferred: bool | None = None
    again: bool = False


class Session(Document):
    has_passphrase: bool
    signed_in: bool


class Health(Document):
    healthy: bool
    version: str


class HomeChange(Body):
    """Only what is named changes."""

    output: Annotated[Line, Field(min_length=1, max_length=4096)] = ""
    set_up: bool = False


class Passphrase(Body):
    passphrase: Annotated[Text, Field(min_length=1, max_length=1000)]
