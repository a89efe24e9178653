"""How high the rate may rise."""

from __future__ import annotations

from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Whole
from .common import of_encoded


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    kbps = (made.peak_bps or 0) // 1000
    return Shown(
        value=str(kbps),
        text=f"{kbps} kb/s",
        reason=Reason(code="inside_level_and_device"),
        fine=True,
        ranges=PEAK.form.ranges,
    )


PEAK = DecisionKind(
    key="picture.peak",
    label="Peak rate",
    help="The highest rate, in kb/s, at which the buffer may be filled.",
    form=Whole(64, 400_000, "kb/s", "peak rate in kb/s"),
    show=_show,
    rules=("peak_rate",),
)
