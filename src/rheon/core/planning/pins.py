"""Reading pins: what a person may set, and a sentence for what can't be meant. Pure."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction

from ..errors import BadPin
from ..media import parse_fraction

AUTOMATIC = "auto"
QUALITY, AVERAGE, SIZE = "quality", "average", "size"


@dataclass(frozen=True, slots=True, kw_only=True)
class RatePin:
    """How the rate was set by hand: a value on the encoder's scale, kb/s on average, or MB for the whole file."""

    mode: str
    value: int


def number(pins: Mapping[str, str], key: str, bounds: tuple[float, float], what: str) -> float | None:
    """A number within bounds, ``None`` where nothing is set. Raises ``BadPin``."""
    said = pins.get(key, AUTOMATIC)
    if said == AUTOMATIC:
        return None
    try:
        value = float(said)
    except ValueError:
        raise BadPin(f"“{said}” is no {what}.", pin=key) from None
    low, high = bounds
    if not low <= value <= high:
        raise BadPin(f"The {what} is {said}; it can be {low:g} to {high:g}.", pin=key)
    return value


def whole(pins: Mapping[str, str], key: str, bounds: tuple[int, int], what: str) -> int | None:
    value = number(pins, key, bounds, what)
    return None if value is None else round(value)


def one_of(pins: Mapping[str, str], key: str, known: Iterable[str], what: str) -> str | None:
    """One of the known values, ``None`` where nothing is set. Raises ``BadPin``."""
    said = pins.get(key, AUTOMATIC)
    if said == AUTOMATIC:
        return None
    names = list(known)
    if said not in names:
        raise BadPin(f"“{said}” is no {what}; it can be {', '.join(names)}.", pin=key)
    return said


def fraction(pins: Mapping[str, str], key: str, bounds: tuple[float, float], what: str) -> Fraction | None:
    """``25``, ``23.976``, ``24000/1001`` or ``16:9``. Raises ``BadPin``."""
    said = pins.get(key, AUTOMATIC)
    if said == AUTOMATIC:
        return None
    value = parse_fraction(said) or _decimal(said)
    if value is None or not bounds[0] <= value <= bounds[1]:
        raise BadPin(f"“{said}” is no {what}; it can be {bounds[0]:g} to {bounds[1]:g}.", pin=key)
    return value


def rate(pins: Mapping[str, str], scale: tuple[int, int] | None) -> RatePin | None:
    """``quality:21``, ``average:1500`` (kb/s) or ``size:700`` (MB). Raises ``BadPin``."""
    said = pins.get("picture.rate", AUTOMATIC)
    if said == AUTOMATIC:
        return None
    mode, _, value = said.partition(":")
    bounds = {QUALITY: scale, AVERAGE: (32, 200_000), SIZE: (1, 200_000)}.get(mode)
    if mode == QUALITY and scale is None:
        raise BadPin(
            "This codec is made at an average rate or for a size, not at constant quality.", pin="picture.rate"
        )
    if bounds is None or not value.isdigit():
        raise BadPin(f"“{said}” is no rate: say quality:21, average:1500 (kb/s) or size:700 (MB).", pin="picture.rate")
    if not bounds[0] <= int(value) <= bounds[1]:
        raise BadPin(f"The {mode} is {value}; it can be {bounds[0]} to {bounds[1]}.", pin="picture.rate")
    return RatePin(mode=mode, value=int(value))


def _decimal(said: str) -> Fraction | None:
    """A decimal; the usual broadcast rates mean their exact fractions."""
    usual = {"23.976": Fraction(24000, 1001), "29.97": Fraction(30000, 1001), "59.94": Fraction(60000, 1001)}
    try:
        return usual.get(said) or Fraction(said)
    except (ValueError, ZeroDivisionError):
        return None
