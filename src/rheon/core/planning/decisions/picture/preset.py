"""How much work the encoder puts into the picture."""

from __future__ import annotations

from ....catalogue import say
from ....formats import video_encoder
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Name
from .common import of_encoded


def _text(name: str) -> str:
    return say("speed {number}", number=name) if name.isdigit() else name


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    return Shown(
        value=made.preset,
        text=_text(made.preset),
        reason=Reason(code="preset_of_balance", values={"balance": case.balance.value}),
        fine=True,
        choices=tuple(Choice(value=name, text=_text(name)) for name in video_encoder(made.codec, made.encoder).presets),
    )


PRESET = DecisionKind(
    key="picture.preset",
    label="Preset",
    help="The encoder's preset: how much work it does for the same quality.",
    form=Name("one that the encoder has"),
    show=_show,
)
