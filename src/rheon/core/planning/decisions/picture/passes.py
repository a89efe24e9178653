"""In how many passes the picture is made."""

from __future__ import annotations

from ....catalogue import say
from ....formats import video_encoder
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneNumber
from .common import of_encoded

ONE, TWO = 1, 2


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    able = video_encoder(made.codec, made.encoder).two_passes and made.bitrate_bps is not None
    twice = made.passes == TWO
    return Shown(
        value=str(made.passes),
        text=say("two") if twice else say("one"),
        reason=Reason(code="two_passes" if twice else "one_pass"),
        fine=True,
        choices=(
            Choice(value=str(ONE), text=say("one")),
            *((Choice(value=str(TWO), text=say("two")),) if able else ()),
        ),
    )


PASSES = DecisionKind(
    key="picture.passes",
    label="Passes",
    help="One pass, or two of which the first only measures.",
    form=OneNumber((ONE, TWO), "number of passes"),
    show=_show,
)
