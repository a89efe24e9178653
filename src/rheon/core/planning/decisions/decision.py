"""What a decision is: how it is called, said and shown; and what somebody has set by hand. Pure."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, Literal, TypeVar, cast

from ...errors import BadPin
from ...media import Balance, KeptRange, OutputSettings, Reason, Title
from .form import Choice, Form, Range, Special, Unreadable, check_known

T = TypeVar("T")
Group = Literal["range", "picture", "sound", "subtitles", "file", "tags"]
AUTOMATIC = "auto"
"""Said of any decision: Rheon chooses."""
PINNED = Reason(code="pinned")


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """A decision as it came out: its value, the same in words, why Rheon would have it so, what else could be chosen.

    ``fine`` marks what few people ask about; ``keeps_reason`` that the reason says more than that it was set by hand.
    """

    value: str
    text: str
    reason: Reason
    fine: bool = False
    keeps_reason: bool = False
    choices: tuple[Choice, ...] = ()
    ranges: tuple[Range, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class DecisionKind(Generic[T]):
    """One decision of a plan.

    ``key`` is ``group.name``, and its group where it is not ``told_under`` another; ``label`` is what people call it,
    ``help`` a sentence about it. ``form`` reads what is set
    by hand. ``show`` turns an outcome into what is shown; ``None`` where nothing was to be decided. ``rules`` are those
    of devices that a pin of it may break. ``own`` pins belong to one title; ``transferred`` says what a value means for
    another title, with what could not be transferred in words.
    """

    key: str
    label: str
    help: str
    form: Form[T]
    show: Callable[[Case], Shown | None]
    rules: tuple[str, ...] = ()
    own: bool = False
    told_under: Group | None = None
    transferred: Callable[[T, Title, Title], tuple[str, tuple[str, ...]]] | None = None

    @property
    def group(self) -> Group:
        return self.told_under or cast("Group", self.key.partition(".")[0])

    def read(self, said: str) -> T:
        """The typed value of a pin. Raises ``BadPin``."""
        try:
            return self.form.read(said)
        except Unreadable as error:
            raise self.refuse(error.what, **error.facts) from None

    def refuse(self, what: str, **facts: object) -> BadPin:
        """The error for a pin that can't be meant here."""
        # what is said in a form of its own is not offered: its message says what can be said
        return BadPin(what, advice="" if isinstance(self.form, Special) else None, pin=self.key, **facts)


@dataclass(frozen=True)
class Pins:
    """What was set by hand, read once: values by decision, and as it was said."""

    said: Mapping[str, str] = field(default_factory=dict)
    values: Mapping[str, object] = field(default_factory=dict, compare=False, repr=False)

    def __bool__(self) -> bool:
        return bool(self.said)

    def __contains__(self, kind: DecisionKind[T]) -> bool:
        return kind.key in self.said

    def any_of(self, kinds: Iterable[DecisionKind[Any]]) -> bool:
        return any(kind.key in self.said for kind in kinds)

    def in_group(self, group: str) -> frozenset[str]:
        """Keys of what was set in a group."""
        return frozenset(key for key in self.said if key.startswith(f"{group}."))

    def of(self, kind: DecisionKind[T]) -> T | None:
        """The value that was set by hand; ``None`` where Rheon chooses."""
        return cast("T | None", self.values.get(kind.key))

    def among(self, kind: DecisionKind[T], known: Iterable[T], what: str) -> T | None:
        """The value that was set, where it is among those that there are here. Raises ``BadPin``."""
        said = self.of(kind)
        if said is None:
            return None
        try:
            check_known(said, known, what)
        except Unreadable as error:
            raise kind.refuse(error.what, **error.facts) from None
        return said


NO_PINS = Pins()


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A finished plan as its decisions are shown from it.

    ``reasons`` and ``offers`` (what else could have been chosen) are those that the planner noted, by key.
    ``access`` are the stretches that copied streams can have.
    """

    title: Title
    made: OutputSettings
    pins: Pins
    balance: Balance
    languages: tuple[str, ...]
    file_system: str
    reasons: Mapping[str, Reason]
    offers: Mapping[str, tuple[str, ...]]
    copy_ranges: tuple[KeptRange, ...] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """One value of a plan and why. ``key`` is its kind's.

    ``choices`` and ``ranges`` are the values offered for a pin; ``fine`` marks decisions that few people ask about.
    """

    key: str
    value: str
    text: str
    reason: Reason
    pinned: bool = False
    fine: bool = False
    choices: tuple[Choice, ...] = ()
    ranges: tuple[Range, ...] = ()


def decided(kind: DecisionKind[T], case: Case) -> Decision | None:
    """The decision as people read it; ``None`` where nothing was to be decided."""
    shown = kind.show(case)
    if shown is None:
        return None
    pinned = kind in case.pins
    return Decision(
        key=kind.key,
        value=shown.value,
        text=shown.text,
        reason=PINNED if pinned and not shown.keeps_reason else shown.reason,
        pinned=pinned,
        fine=shown.fine,
        choices=shown.choices,
        ranges=shown.ranges,
    )
