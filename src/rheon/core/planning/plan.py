"""A plan: the computed way to make one file."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

from pydantic import BeforeValidator

from ..devices import RuleResult, Verdict
from ..media import Balance, OutputSettings, Reason
from ..media.facts import Fact, as_fact
from .decisions import Decision

FALLEN_BACK = frozenset({"encoder_failed", "cut_edges_failed"})
"""Reasons that only what is made instead has."""


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
    """What is expected, with the bounds within which it should come out. Bytes and seconds.

    ``pace`` is how many times as long everything is taken to last as on the machines that Rheon was made for.
    ``from_seconds``: the size is known from seconds that were made as the whole file will be.
    """

    size_bytes: int
    size_low_bytes: int
    size_high_bytes: int
    time_s: float
    time_low_s: float
    time_high_s: float
    checking_s: float = 0.0
    pace: float = 1.0
    from_seconds: bool = False

    def at_pace(self, pace: float) -> Estimate:
        """The same on a machine that takes so many times as long."""
        times = pace / self.pace
        return replace(
            self,
            time_s=self.time_s * times,
            time_low_s=self.time_low_s * times,
            time_high_s=self.time_high_s * times,
            checking_s=self.checking_s * times,
            pace=pace,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """The computed way to make one file from one title for one or more devices.

    ``settings`` and ``estimate`` are ``None`` where nothing is to be made (it plays as it is, or it can't be done).
    ``instead`` is what is made where the file of this plan does not pass its checks, or hardware fails: some cuts are
    only known by their checks.
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

    @property
    def why_instead(self) -> Reason | None:
        """Why this is made instead of what was planned; ``None`` where it was planned."""
        return next((one.reason for one in self.decisions if one.reason.code in FALLEN_BACK), None)
