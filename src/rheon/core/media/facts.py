"""What was measured and what is allowed, as values with a unit. Words are made of them last (``wording``)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

Value = float | int | str


class Unit(StrEnum):
    """What values are of, and so how they are said."""

    WORD = "word"
    CONTAINER = "container"
    CODEC = "codec"
    INDEX = "index"
    BYTES = "bytes"
    PIXELS = "pixels"
    SHAPE = "shape"
    PICTURES_A_SECOND = "pictures_a_second"
    COUNT = "count"
    BITS = "bits"
    DYNAMIC_RANGE = "dynamic_range"
    BITS_A_SECOND = "bits_a_second"
    THROUGH_A_BUFFER = "through_a_buffer"
    AUDIO_BITS_A_SECOND = "audio_bits_a_second"
    HERTZ = "hertz"
    SECONDS = "seconds"
    STEP = "step"
    END = "end"
    SOURCE_END = "source_end"
    PROMISED_END = "promised_end"
    GAP = "gap"
    DAMAGE = "damage"
    TOLD = "told"
    PICTURE = "picture"
    SOUNDS = "sounds"
    TRACKS = "tracks"
    DECODED = "decoded"
    COPIED_FILES = "copied_files"
    AS_ON_SOURCE = "as_on_source"


class Bound(StrEnum):
    """How the values bound: exactly these, up to this, any of them, whatever, or so near."""

    EXACTLY = "exactly"
    AT_MOST = "at_most"
    ANY_OF = "any_of"
    ANY = "any"
    NEAR = "near"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """One side of a rule. ``slack`` is how far off ``NEAR`` may be, in the same unit."""

    unit: Unit
    values: tuple[Value, ...] = ()
    bound: Bound = Bound.EXACTLY
    slack: float = 0.0


def fact(unit: Unit, *values: Value) -> Fact:
    """What was measured, or what has to be."""
    return Fact(unit=unit, values=values)


def at_most(unit: Unit, *values: Value) -> Fact:
    return Fact(unit=unit, values=values, bound=Bound.AT_MOST)


def any_of(unit: Unit, *values: Value) -> Fact:
    """Any of the values, each named once."""
    return Fact(unit=unit, values=tuple(dict.fromkeys(values)), bound=Bound.ANY_OF)


def near(unit: Unit, value: float, slack: float) -> Fact:
    """The value, or one that is no further off than ``slack``."""
    return Fact(unit=unit, values=(value,), bound=Bound.NEAR, slack=slack)


def as_fact(stored: object) -> Fact:
    """The fact of a document. What is stored as text is from before facts had units, and stays that text."""
    if isinstance(stored, Fact):
        return stored
    if isinstance(stored, Mapping):
        return Fact(
            unit=Unit(stored["unit"]),
            values=tuple(stored.get("values", ())),
            bound=Bound(stored.get("bound", Bound.EXACTLY)),
            slack=float(stored.get("slack", 0.0)),
        )
    return fact(Unit.WORD, str(stored))
