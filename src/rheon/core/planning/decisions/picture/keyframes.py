"""How far apart key frames are."""

from __future__ import annotations

from fractions import Fraction

from ....catalogue import say
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Number
from .common import of_encoded


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    seconds = float(Fraction(made.keyframe_frames) / made.frame_rate)
    return Shown(
        value=f"{seconds:.1f}",
        text=say("every {count} frames ({seconds:.1f} s)", count=made.keyframe_frames, seconds=seconds),
        reason=Reason(code="usual_keyframes"),
        fine=True,
        ranges=KEYFRAMES.form.ranges,
    )


KEYFRAMES = DecisionKind(
    key="picture.keyframes",
    label="Key frames",
    help="The distance of key frames, in seconds: a player can jump to each.",
    form=Number(0.1, 60, "s", "distance of key frames in seconds"),
    show=_show,
)
