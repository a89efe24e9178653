"""What was chosen of a title."""

from __future__ import annotations

from dataclasses import dataclass

from ....media import Kept, Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeChoice:
    """The stretches that are kept (none for all of the title), and whether they begin where streams can begin."""

    kept: tuple[Kept, ...] = ()
    near: bool = False
    reasons: tuple[tuple[str, Reason], ...] = ()


WHOLE = RangeChoice()
