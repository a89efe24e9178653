"""The artwork of a file: which picture, cut to which shape, and where it goes."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Shape(StrEnum):
    """Width to height of a picture: of a poster, of a screen, of a record."""

    POSTER = "2:3"
    WIDE = "16:9"
    SQUARE = "1:1"

    @classmethod
    def of(cls, *, pictures: bool) -> Shape:
        """The one that is usual for what is seen, or only heard."""
        return cls.WIDE if pictures else cls.SQUARE

    @property
    def aspect(self) -> float:
        across, down = self.value.split(":")
        return int(across) / int(down)


class CoverPlace(StrEnum):
    """Where artwork goes: into the file, beside it, both, or nowhere."""

    INSIDE = "inside"
    BESIDE = "beside"
    BOTH = "both"
    NONE = "none"

    @property
    def inside(self) -> bool:
        return self in (CoverPlace.INSIDE, CoverPlace.BOTH)

    @property
    def beside(self) -> bool:
        return self in (CoverPlace.BESIDE, CoverPlace.BOTH)


@dataclass(frozen=True, slots=True, kw_only=True)
class Cover:
    """A picture file at ``path`` (``stream`` of it, where it is attached to a medium), or the frame of the title at
    ``at_s``; with neither, the frame that seems best.

    Of the picture a part in the ``shape`` is kept: ``across`` and ``down`` say which, from 0 (left, top) to 1.
    """

    path: str = ""
    stream: int | None = None
    at_s: float | None = None
    shape: Shape = Shape.WIDE
    across: float = 0.5
    down: float = 0.5

    @property
    def chosen(self) -> bool:
        """Whether it is said which picture it is."""
        return bool(self.path) or self.at_s is not None
