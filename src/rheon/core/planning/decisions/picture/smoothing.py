"""What is taken out of the picture where somebody asks for it: noise, and steps in what should be a smooth ramp."""

from __future__ import annotations

from collections.abc import Callable

from ....catalogue import later, say
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, OneOf
from .common import of_encoded

OFF, LIGHT, STRONG = "off", "light", "strong"
STRENGTHS = {OFF: later("left as it is"), LIGHT: later("a little"), STRONG: later("much")}
NOISY = 1.5
"""Steps of eight bits from which on noise is seen, and takes a good part of the bits."""


def _shown(
    kind: Callable[[], DecisionKind[str]], why: Callable[[VideoStream], Reason]
) -> Callable[[Case], Shown | None]:
    @of_encoded
    def show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
        value, reason = case.pins.of(kind()) or OFF, why(source)
        return Shown(
            value=value,
            text=say(STRENGTHS[value]),
            reason=reason,
            fine=value == OFF and reason.code != "noise_found",
            keeps_reason=True,
            choices=tuple(Choice(value=name, text=say(text)) for name, text in STRENGTHS.items()),
        )

    return show


def _of_noise(source: VideoStream) -> Reason:
    if source.noise is None:
        return Reason(code="noise_unknown")
    code = "noise_found" if source.noise >= NOISY else "noise_little"
    return Reason(code=code, values={"noise": f"{source.noise:.1f}"})


DENOISE: DecisionKind[str] = DecisionKind(
    key="picture.denoise",
    label="Noise",
    help="Takes noise and grain out of the picture, a little or much. Fine detail goes with it: look at it before.",
    form=OneOf((OFF, LIGHT, STRONG), "strength"),
    show=_shown(lambda: DENOISE, _of_noise),
)
DEBAND: DecisionKind[str] = DecisionKind(
    key="picture.deband",
    label="Banding",
    help="Smooths steps in skies and fades where there should be none, a little or much.",
    form=OneOf((OFF, LIGHT, STRONG), "strength"),
    show=_shown(lambda: DEBAND, lambda source: Reason(code="banding_by_eye")),
)
