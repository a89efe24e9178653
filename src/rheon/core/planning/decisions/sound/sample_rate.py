"""At which rate the sound is sampled."""

from __future__ import annotations

from ....formats import AUDIO_CODECS
from ..decision import Case, DecisionKind, Shown
from ..form import Choice, Whole
from .common import first, measured

LEAST_OFFERED = 22_050


def _show(case: Case) -> Shown | None:
    if (sound := first(case)) is None:
        return None
    made = sound[1]
    encoder = AUDIO_CODECS[made.codec].encoder if made.codec in AUDIO_CODECS else None
    able = [rate for rate in (encoder.sample_rates if encoder else ()) if rate >= LEAST_OFFERED]
    return Shown(
        value=str(made.sample_rate),
        text=f"{made.sample_rate / 1000:g} kHz",
        reason=measured(made),
        fine=True,
        choices=tuple(Choice(value=str(rate), text=f"{rate / 1000:g} kHz") for rate in able),
    )


SAMPLE_RATE = DecisionKind(
    key="sound.sample_rate",
    label="Sample rate",
    help="Samples of sound a second.",
    form=Whole(1000, 768_000, "Hz, as the codec's encoder takes it", "sample rate"),
    show=_show,
    rules=("sample_rate",),
)
