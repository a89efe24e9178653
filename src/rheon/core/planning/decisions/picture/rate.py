"""Constant quality, an average, or a size for the whole file."""

from __future__ import annotations

from dataclasses import dataclass

from ....catalogue import say
from ....formats import video_encoder
from ....media import Reason, VideoSettings, VideoStream
from ..decision import Case, DecisionKind, Shown
from ..form import Range, Special, Unreadable
from .common import of_encoded

QUALITY, AVERAGE, SIZE = "quality", "average", "size"
BOUNDS = {AVERAGE: (32, 200_000), SIZE: (1, 200_000)}
UNITS = {AVERAGE: "kb/s on average", SIZE: "MB for the file"}


@dataclass(frozen=True, slots=True)
class RatePin:
    """A value on the encoder's scale, kb/s on average, or MB for the whole file."""

    mode: str
    value: int


def read(said: str) -> RatePin:
    mode, _, value = said.partition(":")
    if mode not in (QUALITY, AVERAGE, SIZE) or not value.isdecimal() or len(value) > 9:
        raise Unreadable("“{said}” is no rate: say quality:21, average:1500 (kb/s) or size:700 (MB).", said=said)
    check(RatePin(mode, int(value)), BOUNDS.get(mode))
    return RatePin(mode, int(value))


def check(pin: RatePin, bounds: tuple[int, int] | None) -> None:
    """Raises ``Unreadable`` where the value is out of the bounds."""
    if bounds is not None and not bounds[0] <= pin.value <= bounds[1]:
        raise Unreadable(
            "The {mode} is {value}; it can be {low} to {high}.",
            mode=pin.mode,
            value=pin.value,
            low=bounds[0],
            high=bounds[1],
        )


@of_encoded
def _show(case: Case, source: VideoStream, made: VideoSettings) -> Shown:
    pin = case.pins.of(RATE)
    kbps = (made.bitrate_bps or 0) // 1000
    values: dict[str, object] = {
        "balance": case.balance.value,
        "peak_bps": made.peak_bps,
        "buffer_bits": made.buffer_bits,
    }
    text = say("constant quality {quality}", quality=made.quality)
    if made.quality is None:
        text = say("{kbps:.0f} kb/s on average", kbps=(made.bitrate_bps or 0) / 1000)
    code = "rate_by_hand" if pin else "balance_rate"
    if pin is not None and pin.mode == SIZE:
        text, code = say("{rate}, for {size} MB", rate=text, size=pin.value), "rate_for_size"
    encoder = video_encoder(made.codec, made.encoder)
    scale = Range(low=encoder.scale[0], high=encoder.scale[1], unit="quality", before=f"{QUALITY}:")
    chosen = f"{QUALITY}:{made.quality}" if made.quality is not None else f"{AVERAGE}:{kbps}"
    return Shown(
        value=case.pins.said.get(RATE.key, chosen),
        text=text,
        reason=Reason(code=code, values=values),
        keeps_reason=True,
        ranges=(*((scale,) if encoder.quality else ()), *RATE.form.ranges),
    )


RATE = DecisionKind(
    key="picture.rate",
    label="Rate",
    help="Constant quality on the encoder's scale, an average in kb/s, or a size for the whole file in MB.",
    form=Special(
        read,
        "quality:21, average:1500 or size:700",
        tuple(Range(low=low, high=high, unit=UNITS[m], before=f"{m}:") for m, (low, high) in BOUNDS.items()),
    ),
    show=_show,
    rules=("file_size", "bitrate"),
)
