"""How much noise is taken out of the picture."""

from __future__ import annotations

from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import OneOf
from .common import OFF, STRENGTHS, of_encoded, strength_shown


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    value = case.pins.of(DENOISE) or OFF
    return strength_shown(value, _why(source), fine=value == OFF and not source.is_noisy)


def _why(source: VideoStream) -> Reason:
    if source.noise is None:
        return Reason(code="noise_unknown")
    if not source.is_noisy:
        return Reason(code="noise_little")
    return Reason(code="noise_found", values={"noise": f"{source.noise:.1f}"})


DENOISE: DecisionKind[str] = DecisionKind(
    key="picture.denoise",
    label="Noise",
    help="Takes noise and grain out of the picture, a little or much. Fine detail goes with it: look at it before.",
    form=OneOf(tuple(STRENGTHS), "strength"),
    show=_show,
)
