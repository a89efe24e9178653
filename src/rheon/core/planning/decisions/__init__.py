"""The registry of decisions: what can be set by hand, how each is said, and how a plan shows it.

A new decision is a file in one of the groups and its name in that group's list. Planner, shell, interface and
documentation are made from here.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from ...errors import BadPin
from .decision import AUTOMATIC, NO_PINS, PINNED, Case, Decision, DecisionKind, Pins, decided
from .file import FILE
from .form import Choice, Range
from .picture import PICTURE
from .range import RANGE
from .sound import SOUND
from .subtitles import OF_SUBTITLES

DECISIONS: Mapping[str, DecisionKind[Any]] = {
    kind.key: kind for kind in (*RANGE, *PICTURE, *SOUND, *OF_SUBTITLES, *FILE)
}
"""Every decision by its key, in the order in which people read them."""


CALLED_NOW: Mapping[str, str] = {
    "words.subtitle": "subtitles.track",
    "words.form": "subtitles.form",
    "words.lines": "subtitles.lines",
    "picture.cadence": "picture.frame_rate",
    "picture.effort": "picture.preset",
}
"""Keys of older versions, which pins, sets and scripts may still have."""


def read_pins(said: Mapping[str, str | None]) -> Pins:
    """What was set by hand, as typed values; ``auto`` and ``None`` take a pin back. Raises ``BadPin``.

    Keys of older versions are those of today from here on.
    """
    kept: dict[str, str] = {}
    for key, value in said.items():
        today = CALLED_NOW.get(key, key)
        kept.pop(today, None)
        if value is not None and value != AUTOMATIC:
            kept[today] = value
    return Pins(said=kept, values={key: kind_of(key).read(value) for key, value in kept.items()})


def kind_of(key: str) -> DecisionKind[Any]:
    """Raises ``BadPin`` where there is no such decision."""
    if key not in DECISIONS:
        raise BadPin("“{pin}” is no decision that can be set.", pin=key)
    return DECISIONS[key]


def explain(case: Case, kinds: Iterable[DecisionKind[Any]] = ()) -> tuple[Decision, ...]:
    """Every decision of a plan, or those of some kinds, with its reason."""
    return tuple(made for kind in kinds or DECISIONS.values() if (made := decided(kind, case)) is not None)


__all__ = [
    "AUTOMATIC",
    "CALLED_NOW",
    "DECISIONS",
    "NO_PINS",
    "PINNED",
    "Case",
    "Choice",
    "Decision",
    "DecisionKind",
    "Pins",
    "Range",
    "explain",
    "kind_of",
    "read_pins",
]
