"""What makes the picture: software, or an encoder in hardware."""

from __future__ import annotations

from ....catalogue import say
from ....formats import HARDWARE, video_encoder
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

SOFTWARE, ANY_HARDWARE = "software", "hardware"


def _text(value: str, codec: str) -> str:
    if value == SOFTWARE:
        return say("software ({encoder})", encoder=video_encoder(codec).name)
    return say("graphics chip ({interface})", interface=HARDWARE[value].label)


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    value = video_encoder(made.codec, made.encoder).hardware or SOFTWARE
    others = case.offers.get(ENCODER.key, ())
    return Shown(
        value=value,
        text=_text(value, made.codec),
        reason=case.reasons.get(ENCODER.key, Reason(code="encoder_software")),
        fine=not others,
        keeps_reason=True,
        choices=tuple(Choice(value=name, text=_text(name, made.codec)) for name in (SOFTWARE, *others)),
    )


ENCODER: DecisionKind[str] = DecisionKind(
    key="picture.encoder",
    label="Encoder",
    help="Software, which chooses best where bits go, or a graphics chip, which is quicker.",
    form=OneOf((SOFTWARE, ANY_HARDWARE, *HARDWARE), "encoder"),
    show=_show,
)
