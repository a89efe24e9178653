"""What fits on a device: which of several files, in the order in which they are wished for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..media import Reason

KEPT_FREE_BYTES, KEPT_FREE_SHARE = 32_000_000, 0.01
"""Players write lists and pictures of their own: a volume filled to the brim upsets some of them."""


def kept_free(total_bytes: int | None) -> int:
    """How much of a volume of that size is not filled."""
    return KEPT_FREE_BYTES if total_bytes is None else min(KEPT_FREE_BYTES, int(total_bytes * KEPT_FREE_SHARE))


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """What a place has for files: free bytes where it says, what of them is kept free, its unit, its largest file."""

    free_bytes: int | None
    kept_free_bytes: int
    unit_bytes: int = 1
    largest_file_bytes: int | None = None

    @property
    def left_bytes(self) -> int | None:
        """What may be filled."""
        return None if self.free_bytes is None else max(0, self.free_bytes - self.kept_free_bytes)

    def taken_by(self, size_bytes: int) -> int:
        """What a file takes: whole units."""
        return -(-size_bytes // self.unit_bytes) * self.unit_bytes


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """Whether the file ``key`` fits beside those before it; ``why_not`` where it does not."""

    key: int
    why_not: Reason | None = None


def what_fits(files: Sequence[tuple[int, int]], room: Room) -> tuple[Fit, ...]:
    """For each file (key, bytes) in the order of wishes. One that does not fit leaves its room to those behind it."""
    left = room.left_bytes
    found = []
    for key, size_bytes in files:
        why_not = _why_not(size_bytes, left, room)
        found.append(Fit(key=key, why_not=why_not))
        if why_not is None and left is not None:
            left -= room.taken_by(size_bytes)
    return tuple(found)


def _why_not(size_bytes: int, left_bytes: int | None, room: Room) -> Reason | None:
    largest = room.largest_file_bytes
    if largest is not None and size_bytes > largest:
        return Reason(code="over_file_limit", values={"size_bytes": size_bytes, "largest_bytes": largest})
    if left_bytes is not None and room.taken_by(size_bytes) > left_bytes:
        return Reason(code="no_room_left", values={"size_bytes": size_bytes, "left_bytes": left_bytes})
    return None
