"""In how many passes the picture is made."""

from __future__ import annotations

from ....formats import video_encoder
from ....media import Reason
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import encoded

ONE, TWO = "1", "2"


def _show(case: Case) -> Shown | None:
    if (pictures := encoded(case)) is None:
        return None
    made = pictures[1]
    able = video_encoder(made.codec, made.encoder).two_passes and made.bitrate_bps is not None
    twice = made.passes == 2
    return Shown(
        value=str(made.passes),
        text="two" if twice else "one",
        reason=Reason(code="two_passes" if twice else "one_pass"),
        fine=True,
        choices=(Choice(value=ONE, text="one"), *((Choice(value=TWO, text="two"),) if able else ())),
    )


PASSES = DecisionKind(
    key="picture.passes",
    label="Passes",
    help="One pass, or two of which the first only measures.",
    form=OneOf((ONE, TWO), "number of passes"),
    show=_show,
)
