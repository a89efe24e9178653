"""Why a file does not go onto a device: what is said of its size and of the room there."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..catalogue import say
from .lengths import size_text
from .values import Values, number


def _over_limit(values: Values) -> str:
    size, largest = (size_text(number(values[key])) for key in ("size_bytes", "largest_bytes"))
    return say("it is {size}, and a file there can be {largest} at most", size=size, largest=largest)


def _no_room(values: Values) -> str:
    size, left = (size_text(number(values[key])) for key in ("size_bytes", "left_bytes"))
    return say("it takes {size}, and {left} are left", size=size, left=left)


ROOM: Mapping[str, str | Callable[[Values], str]] = {"over_file_limit": _over_limit, "no_room_left": _no_room}
