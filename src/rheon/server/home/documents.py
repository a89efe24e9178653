"""The installation's documents: what its calls take and give."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from rheon.core.media import ContentKind
from rheon.core.naming.patterns import LONGEST_PATTERN, PresetName
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


class HardwareCost(Document):
    """How large files are beside those of software at the same fidelity (``None``: more than was tried), how long they
    take beside them, and the title with which that was measured; empty where none that is there could be.
    """

    size_share: float | None
    time_share: float | None
    measured_with: str


class HardwareCodec(Document):
    """What works: whether also with ten bits, and what it costs, once that was measured."""

    codec: str
    ten_bits: bool
    cost: HardwareCost | None


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
    prefers_speed: bool
    measuring: bool
    families: list[HardwareFamily]


class HardwareChange(Body):
    """``prefers_speed``: they make whatever they can. ``again``: try them, and measure what works, once more."""

    prefers_speed: bool | None = None
    again: bool = False


class Pattern(Document):
    """The pattern for a kind of content, and what it calls an example; or what is wrong with it."""

    kind: ContentKind
    label: str
    text: str
    example: str
    fault: str


class Preset(Document):
    """Patterns that are offered together, and what they call a film and an episode."""

    name: PresetName
    text: str
    examples: list[str]


class PatternPlace(Document):
    """What a pattern can name, and what that is."""

    name: str
    about: str


class Naming(Document):
    """By which patterns files are called; ``preset`` where all are those of one that is offered."""

    preset: PresetName | None
    presets: list[Preset]
    patterns: list[Pattern]
    places: list[PatternPlace]


class NamingChange(Body):
    """A preset, or patterns by kind (an empty one: as Rheon begins); ``only_try``: nothing is kept."""

    preset: PresetName | None = None
    patterns: dict[ContentKind, Annotated[Line, Field(max_length=LONGEST_PATTERN)]] = {}
    only_try: bool = False


class LookUpChoice(Document):
    """The look-up service that the settings name (empty: none), and whether it may be asked."""

    service: str
    allowed: bool


class LookUpChange(Body):
    allowed: bool


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
