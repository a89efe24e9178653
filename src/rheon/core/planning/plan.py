"""A plan: the computed way to make one file."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import BeforeValidator

from ..devices import RuleResult, Verdict
from ..media import Balance, OutputSettings, Reason
from ..media.facts import Fact, as_fact
from .decisions import Decision


@dataclass(frozen=True, slots=True, kw_only=True)
class Breach:
    """A rule of a device that the file will break, since somebody wanted it so.

    ``unsure`` where it holds if the device can do what is doubtful.
    """

    device_id: str
    device_name: str
    rule: str
    part: str
    measured: Annotated[Fact, BeforeValidator(as_fact)]
    allowed: Annotated[Fact, BeforeValidator(as_fact)]
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
    checking_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """The computed way to make one file from one title for one or more devices.

    ``settings`` and ``estimate`` are ``None`` where nothing is to be made (it plays as it is, or it can't be done).
    ``instead`` is what is made where the file of this plan does not pass its checks: some cuts are only known by them.
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
    instead: Plan | None = None
