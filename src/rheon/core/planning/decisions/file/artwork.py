"""Where the artwork goes."""

from __future__ import annotations

from ....catalogue import later, say
from ....formats import CONTAINERS
from ....media import CoverPlace
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf

NAMES = {
    CoverPlace.INSIDE: later("in the file"),
    CoverPlace.BESIDE: later("beside the file"),
    CoverPlace.BOTH: later("in the file and beside it"),
    CoverPlace.NONE: later("none"),
}


def _show(case: Case) -> Shown | None:
    if case.title.video is None and case.title.artwork is None and case.title.cover is None:
        return None
    value = case.made.cover_place
    holds = CONTAINERS[case.made.container].cover
    return Shown(
        value=value.value,
        text=say(NAMES[value]),
        reason=case.reasons[ARTWORK.key],
        choices=tuple(Choice(value=one.value, text=say(NAMES[one])) for one in CoverPlace if holds or not one.inside),
        fine=value is CoverPlace.NONE,
    )


ARTWORK = DecisionKind(
    key="file.artwork",
    label=later("Artwork"),
    help=later("Where the artwork goes: a frame of the title, or a picture of one's own."),
    form=OneOf(tuple(one.value for one in CoverPlace), "place for artwork"),
    show=_show,
)
