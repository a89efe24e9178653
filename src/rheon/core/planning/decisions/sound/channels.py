"""How many channels the sound has."""

from __future__ import annotations

from ....formats import channels_text
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Whole
from .common import first, measured

USUAL = (1, 2, 6)


def _show(case: Case) -> Shown | None:
    if (sound := first(case)) is None:
        return None
    made = sound[1]
    able = [count for count in USUAL if count <= max(2, made.source_channels)]
    return Shown(
        value=str(made.channels),
        text=channels_text(made.channels),
        reason=measured(made),
        fine=True,
        choices=tuple(Choice(value=str(count), text=channels_text(count)) for count in able),
    )


CHANNELS = DecisionKind(
    key="sound.channels",
    label="Channels",
    help="Channels of the sound.",
    form=Whole(1, 8, "", "number of channels"),
    show=_show,
    rules=("channels",),
)
