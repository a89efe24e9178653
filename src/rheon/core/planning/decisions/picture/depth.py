"""How many bits a sample of the picture has."""

from __future__ import annotations

from ....catalogue import say
from ....formats import video_encoder
from ....media import VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneNumber
from .common import of_encoded

EIGHT, TEN = 8, 10


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    able = (EIGHT, TEN) if video_encoder(made.codec, made.encoder).ten_bit_profile else (EIGHT,)
    return Shown(
        value=str(made.bit_depth),
        text=say("{depth} bits", depth=made.bit_depth),
        reason=case.reasons[DEPTH.key],
        fine=True,
        choices=tuple(Choice(value=str(depth), text=say("{depth} bits", depth=depth)) for depth in able),
    )


DEPTH = DecisionKind(
    key="picture.depth",
    label="Depth",
    help="Bits of each sample of the picture.",
    form=OneNumber((EIGHT, TEN), "bit depth that is made"),
    show=_show,
    rules=("bit_depth",),
)
