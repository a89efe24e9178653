"""How many pictures there are a second."""

from __future__ import annotations

from ....catalogue import say
from ....media import VideoSettings, VideoStream
from ..decision import AUTOMATIC, Case, DecisionKind, Shown
from ..form import Choice, Ratio
from .common import of_encoded

USUAL = ("23.976", "24", "25", "29.97", "30", "50", "59.94", "60")


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    text = f"{float(made.frame_rate):.3f}".rstrip("0").rstrip(".")
    return Shown(
        value=case.pins.said.get(FRAME_RATE.key, AUTOMATIC),
        text=say("{rate} frames/s", rate=text),
        reason=case.reasons[FRAME_RATE.key],
        choices=(Choice(value=AUTOMATIC, text=say("as proposed")), *(Choice(value=r, text=r) for r in USUAL)),
        ranges=FRAME_RATE.form.ranges,
    )


FRAME_RATE = DecisionKind(
    key="picture.frame_rate",
    label="Frame rate",
    help="Frames a second.",
    form=Ratio(5, 120, "a second", "frame rate"),
    show=_show,
    rules=("frame_rate",),
)
