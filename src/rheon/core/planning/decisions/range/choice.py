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

    @property
    def copies_picture(self) -> bool:
        """Whether a picture may stay as it is: a cut that is exact to the picture can't be where none begins."""
        return not self.kept or (self.near and len(self.kept) == 1)

    @property
    def copies_sound(self) -> bool:
        return self.copies_picture


WHOLE = RangeChoice()
