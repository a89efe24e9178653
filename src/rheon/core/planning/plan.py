"""A plan and what it is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from ..devices import DeviceProfile, RuleResult, Verdict
from ..media import Reason, Samples, Title
from .settings import OutputSettings


class Balance(StrEnum):
    """The choice between size, fidelity and time, from small to large."""

    LEAN = "lean"
    LIGHT = "light"
    EVEN = "even"
    FULL = "full"
    RICH = "rich"

    @property
    def step(self) -> int:
        return list(Balance).index(self)


PIN_KEYS = ("picture.crop", "picture.codec", "picture.height", "sound.track", "words.subtitle", "file.name")
"""Decisions that may be set by hand."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRequest:
    """A title, the devices one file is for, and what the person wants. ``languages`` are BCP 47, the dearest first.

    ``samples`` is ``None`` where nobody measured, and the estimates are guesses then.
    """

    title: Title
    devices: tuple[DeviceProfile, ...]
    name: str
    balance: Balance = Balance.EVEN
    pins: Mapping[str, str] = field(default_factory=dict)
    languages: tuple[str, ...] = ()
    samples: Samples | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A value that a decision can be pinned to, and how it is called."""

    value: str
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """One value of a plan and why. ``key`` is ``group.name``; ``choices`` are the values offered for a pin."""

    key: str
    value: str
    text: str
    reason: Reason
    pinned: bool = False
    choices: tuple[Choice, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """What is expected, with the bounds within which it should come out. Bytes and seconds."""

    size_bytes: int
    size_low_bytes: int
    size_high_bytes: int
    time_s: float
    time_low_s: float
    time_high_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """The computed way to make one file from one title for one or more devices.

    ``settings`` and ``estimate`` are ``None`` where nothing is to be made (it plays as it is, or it can't be done).
    """

    title_number: int
    device_ids: tuple[str, ...]
    balance: Balance
    treatment: Verdict
    reason: Reason
    rules: tuple[RuleResult, ...]
    decisions: tuple[Decision, ...] = ()
    settings: OutputSettings | None = None
    estimate: Estimate | None = None
