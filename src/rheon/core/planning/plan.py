"""A plan and what it is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..devices import DeviceProfile, RuleResult, Verdict
from ..media import Balance, OutputSettings, Reason, Samples, SoundWish, Title, WordsWish

PIN_KEYS = (
    "picture.crop", "picture.aspect", "picture.size", "picture.pixels", "picture.cadence", "picture.fields",
    "picture.deinterlacer", "picture.codec", "picture.profile", "picture.level", "picture.depth", "picture.colour",
    "picture.rate", "picture.passes", "picture.peak", "picture.buffer", "picture.keyframes", "picture.effort",
    "sound.track", "sound.codec", "sound.channels", "sound.sample_rate", "sound.bitrate", "sound.gain",
    "words.subtitle", "words.form", "words.lines",
    "file.container", "file.chapters", "file.name",
)  # fmt: skip
"""Decisions that may be set by hand. ``auto`` always means that Rheon chooses."""
OWN_KEYS = frozenset({"file.name"})
"""Pins that belong to one title and are not carried over to others."""


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
    sound: SoundWish = SoundWish.SURROUND
    words: WordsWish = WordsWish.NEEDED
    samples: Samples | None = None


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """One value of a plan and why. ``key`` is ``group.name``.

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


@dataclass(frozen=True, slots=True, kw_only=True)
class Breach:
    """A rule of a device that the file will break, since somebody wanted it so.

    ``unsure`` where it holds if the device can do what is doubtful.
    """

    device_id: str
    device_name: str
    rule: str
    part: str
    measured: str
    allowed: str
    unsure: bool = False


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
    breaches: tuple[Breach, ...] = ()
    settings: OutputSettings | None = None
    estimate: Estimate | None = None
