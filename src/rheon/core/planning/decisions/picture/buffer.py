"""How large a decoder's buffer may be taken to be."""

from __future__ import annotations

from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Whole
from .common import of_encoded


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    kbit = (made.buffer_bits or 0) // 1000
    return Shown(
        value=str(kbit),
        text=f"{kbit} kbit",
        reason=Reason(code="inside_level_and_device"),
        fine=True,
        ranges=BUFFER.form.ranges,
    )


BUFFER = DecisionKind(
    key="picture.buffer",
    label="Buffer",
    help="The decoder's buffer, in kbit, through which the peak rate is measured.",
    form=Whole(16, 800_000, "kbit", "buffer in kbit"),
    show=_show,
)
