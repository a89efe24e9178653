"""What was chosen of a title."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ....media import KeptRange, Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeChoice:
    """The kept ranges (none for all of the title), whether they are cut as copies can be, and why, by decision.

    ``middles``: what of each is copied where only the pictures before and behind it are encoded.
    """

    kept: tuple[KeptRange, ...] = ()
    as_copy: bool = False
    middles: tuple[KeptRange, ...] = ()
    reasons: Mapping[str, Reason] = field(default_factory=dict)


WHOLE = RangeChoice()
