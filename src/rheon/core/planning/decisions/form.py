"""How a decision is said: forms that turn what was typed into a typed value, and know the values they take. Pure."""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Generic, TypeVar

from ...catalogue import say
from ...media import parse_fraction

T = TypeVar("T")
E = TypeVar("E", bound=StrEnum)
USUAL_RATES = {"23.976": Fraction(24000, 1001), "29.97": Fraction(30000, 1001), "59.94": Fraction(60000, 1001)}
"""Broadcast rates that people write shortly and that mean exact fractions."""


class Unreadable(ValueError):
    """What was said is no value of the decision: a message of the catalogue with its facts."""

    def __init__(self, what: str, **facts: object) -> None:
        super().__init__(what)
        self.what, self.facts = what, facts


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A value that a decision can be pinned to, and how it is called."""

    value: str
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """Numbers that a decision can be pinned to. ``before`` goes in front of the number in the pin's value."""

    low: float
    high: float
    unit: str
    before: str = ""


class Form(ABC, Generic[T]):
    """A way to say a value."""

    @abstractmethod
    def read(self, said: str) -> T:
        """The value. Raises ``Unreadable``."""

    @property
    def grammar(self) -> str:
        """What may be said, for a list of decisions."""
        return "text"

    @property
    def ranges(self) -> tuple[Range, ...]:
        """Numbers that may be offered wherever the decision is open."""
        return ()


@dataclass(frozen=True)
class Bounded(Form[T], ABC):
    """A number from ``low`` to ``high``, both included; ``what`` names it in a sentence."""

    low: float
    high: float
    unit: str
    what: str

    @property
    def grammar(self) -> str:
        return f"{self.low:g} to {self.high:g} {self.unit}".rstrip()

    @property
    def ranges(self) -> tuple[Range, ...]:
        return (Range(low=self.low, high=self.high, unit=self.unit),)


class Number(Bounded[float]):
    """A number within bounds."""

    def read(self, said: str) -> float:
        try:
            value = float(said)
        except ValueError:
            raise Unreadable("“{said}” is no {kind}.", said=said, kind=say(self.what)) from None
        if not self.low <= value <= self.high:
            raise Unreadable(
                "The {kind} is {said}; it can be {low:g} to {high:g}.",
                kind=say(self.what),
                said=said,
                low=self.low,
                high=self.high,
            )
        return value


class Whole(Bounded[int]):
    """A number within bounds, rounded."""

    def read(self, said: str) -> int:
        return round(Number(self.low, self.high, self.unit, self.what).read(said))


class Ratio(Bounded[Fraction]):
    """``25``, ``23.976``, ``24000/1001`` or ``16:9``."""

    def read(self, said: str) -> Fraction:
        value = USUAL_RATES.get(said) or parse_fraction(said) or _decimal(said)
        if value is None or not self.low <= value <= self.high:
            raise Unreadable(
                "“{said}” is no {kind}; it can be {low:g} to {high:g}.",
                said=said,
                kind=say(self.what),
                low=self.low,
                high=self.high,
            )
        return value

    @property
    def grammar(self) -> str:
        return f"{self.low:g} to {self.high:g}, as in 25, 24000/1001 or 16:9"


@dataclass(frozen=True)
class OneOf(Form[str]):
    """One of the words that are known."""

    known: tuple[str, ...]
    what: str

    def read(self, said: str) -> str:
        check_known(said, self.known, self.what)
        return said

    @property
    def grammar(self) -> str:
        return ", ".join(self.known)


@dataclass(frozen=True)
class OneNumber(Form[int]):
    """One of the whole numbers that are known."""

    known: tuple[int, ...]
    what: str

    def read(self, said: str) -> int:
        check_known(said, tuple(map(str, self.known)), self.what)
        return int(said)

    @property
    def grammar(self) -> str:
        return ", ".join(map(str, self.known))


@dataclass(frozen=True)
class Enumerated(Form[E]):
    """One of the values of an enumeration."""

    kinds: type[E]
    what: str

    def read(self, said: str) -> E:
        check_known(said, tuple(item.value for item in self.kinds), self.what)
        return self.kinds(said)

    @property
    def grammar(self) -> str:
        return ", ".join(item.value for item in self.kinds)


@dataclass(frozen=True)
class Name(Form[str]):
    """A word of which only the title, the device or the codec tells whether there is such a thing."""

    what: str

    def read(self, said: str) -> str:
        return said

    @property
    def grammar(self) -> str:
        return self.what


@dataclass(frozen=True)
class Tracks(Form[tuple[int, ...]]):
    """``0`` or ``0,2``, counted from 0 as the title has them, each once; ``none`` for none of them."""

    what: str

    def read(self, said: str) -> tuple[int, ...]:
        if said == "none":
            return ()
        places = said.split(",")
        if not all(place.isdecimal() and len(place) <= 4 for place in places):
            raise Unreadable("This title has no {kind} track {said}.", kind=say(self.what), said=said)
        return tuple(dict.fromkeys(map(int, places)))

    @property
    def grammar(self) -> str:
        return "0, or 0,2 for several; none"


@dataclass(frozen=True)
class Special(Form[T]):
    """A form of one decision alone."""

    reader: Callable[[str], T]
    says: str
    offers: tuple[Range, ...] = ()

    def read(self, said: str) -> T:
        return self.reader(said)

    @property
    def grammar(self) -> str:
        return self.says

    @property
    def ranges(self) -> tuple[Range, ...]:
        return self.offers


def check_known(said: object, known: Iterable[object], what: str) -> None:
    """Raises ``Unreadable`` where what was said is not among what is known."""
    there = tuple(known)
    if said not in there:
        raise Unreadable(
            "“{said}” is no {kind}; it can be {known}.", said=said, kind=say(what), known=", ".join(map(str, there))
        )


def _decimal(said: str) -> Fraction | None:
    # an exponent could ask for a number of any size
    return Fraction(said) if re.fullmatch(r"\d{1,9}\.\d{1,9}", said) else None
