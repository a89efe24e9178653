"""How much is done about steps in what should be a smooth ramp."""

from __future__ import annotations

from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import OneOf
from .common import OFF, STRENGTHS, of_encoded, strength_shown


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    value = case.pins.of(DEBAND) or OFF
    return strength_shown(value, Reason(code="banding_by_eye"), fine=value == OFF)


DEBAND: DecisionKind[str] = DecisionKind(
    key="picture.deband",
    label="Banding",
    help="Smooths steps in skies and fades where there should be none, a little or much.",
    form=OneOf(tuple(STRENGTHS), "strength"),
    show=_show,
)
