"""Measured and allowed values as words: one way of saying for each unit."""

from __future__ import annotations

from collections.abc import Callable

from ..formats import CONTAINERS, codec_name
from ..media import Gap
from ..media.facts import Bound, Fact, Unit, Value
from .lengths import duration_text, gap_text

INDEX = {"in_front": "in front", "at_end": "at the end"}


def fact_text(found: Fact, *, raw: bool = False) -> str:
    """One side of a rule in words; ``raw`` leaves codecs and containers by the names that programs use."""
    if found.bound is Bound.ANY:
        return "any"
    said = SAYS[found.unit]
    if not raw and found.unit in NAMED:
        said = _list(NAMED[found.unit])
    text = said(found)
    return f"up to {text}" if found.bound is Bound.AT_MOST else text


def _number(value: Value) -> float:
    return float(value) if not isinstance(value, str) else 0.0


def _list(each: Callable[[Value], str], after: str = "") -> Callable[[Fact], str]:
    def said(found: Fact) -> str:
        return " or ".join(map(each, found.values)) + after if found.values else "none"

    return said


def _one(each: Callable[[float], str]) -> Callable[[Fact], str]:
    return lambda found: each(_number(found.values[0]))


def _bytes(found: Fact) -> str:
    megabytes = _number(found.values[0]) / 1e6
    return f"{megabytes:.0f} MB" if found.bound is Bound.AT_MOST else f"{megabytes:.1f} MB"


def _rate(found: Fact) -> str:
    rate = _number(found.values[0])
    return f"{rate:g}" if found.bound is Bound.AT_MOST else f"{rate:.3f}"


def _shape(found: Fact) -> str:
    if isinstance(found.values[0], str):
        return found.values[0]
    above, below, shown = found.values
    return f"{above}:{below} ({shown} shown)"


def _through(found: Fact) -> str:
    peak, buffer = map(_number, found.values)
    return f"{peak / 1e6:.2f} Mb/s through {buffer / 1e6:.1f} Mb"


def _seconds(found: Fact) -> str:
    text = f"{_number(found.values[0]):.2f} s"
    return f"{text}, within {found.slack:g} s" if found.bound is Bound.NEAR else text


def _source_end(found: Fact) -> str:
    return f"the source ends at {duration_text(_number(found.values[0]))}"


def _promised_end(found: Fact) -> str:
    return f"{duration_text(_number(found.values[0]))}, as its header says"


def _damage(found: Fact) -> str:
    count, at_s = map(_number, found.values)
    places = "a damaged place" if count == 1 else f"{count:.0f} damaged places"
    return f"{places} on the source, the first near {at_s:.0f} s"


def _end(found: Fact) -> str:
    at = f"{_number(found.values[0]):.2f} s"
    return f"{at}, as on the source" if found.bound is Bound.NEAR else f"ends at {at}"


def _picture(found: Fact) -> str:
    if not found.values:
        return "no picture"
    width, height, codec = found.values
    return f"{width}×{height} {codec}"


def _sounds(found: Fact) -> str:
    pairs = zip(found.values[::2], found.values[1::2], strict=True)
    return "; ".join(f"{codec}, {channels} channels" for codec, channels in pairs) or "no sound"


def _tracks(found: Fact) -> str:
    count = found.values[0]
    return f"{count} track" if count == 1 else f"{count} tracks"


def _decoded(found: Fact) -> str:
    if not found.values:
        return "no errors"
    frames, errors, *first = found.values
    text = f"{frames} frames, {errors or 'no'} error{'' if errors == 1 else 's'}"
    return f"{text} ({first[0]})" if first else text


def _copied(found: Fact) -> str:
    count = found.values[0]
    return f"{count} file{'' if count == 1 else 's'}, every SHA-256 the same"


def _container(name: Value) -> str:
    if name == "dvd":
        return "DVD"
    return CONTAINERS[str(name)].label if name in CONTAINERS else str(name)


NAMED: dict[Unit, Callable[[Value], str]] = {
    Unit.CODEC: lambda name: codec_name(str(name)),
    Unit.CONTAINER: _container,
}
SAYS: dict[Unit, Callable[[Fact], str]] = {
    Unit.WORD: _list(str),
    Unit.CONTAINER: _list(str),
    Unit.CODEC: _list(str),
    Unit.INDEX: _list(lambda place: INDEX[str(place)]),
    Unit.BYTES: _bytes,
    Unit.PIXELS: lambda found: "×".join(map(str, found.values)),
    Unit.SHAPE: _shape,
    Unit.PICTURES_A_SECOND: _rate,
    Unit.COUNT: _list(str),
    Unit.BITS: _list(str, " bits"),
    Unit.BITS_A_SECOND: _one(lambda bps: f"{bps / 1e6:.1f} Mb/s"),
    Unit.THROUGH_A_BUFFER: _through,
    Unit.AUDIO_BITS_A_SECOND: _one(lambda bps: f"{bps / 1000:.0f} kb/s"),
    Unit.HERTZ: _list(lambda rate: f"{_number(rate) / 1000:g}", " kHz"),
    Unit.SECONDS: _seconds,
    Unit.END: _end,
    Unit.SOURCE_END: _source_end,
    Unit.PROMISED_END: _promised_end,
    Unit.GAP: lambda found: gap_text(Gap(from_s=_number(found.values[0]), to_s=_number(found.values[1]))),
    Unit.DAMAGE: _damage,
    Unit.TOLD: lambda found: "told, not hidden",
    Unit.PICTURE: _picture,
    Unit.SOUNDS: _sounds,
    Unit.TRACKS: _tracks,
    Unit.DECODED: _decoded,
    Unit.COPIED_FILES: _copied,
    Unit.AS_ON_SOURCE: lambda found: "as on the source",
}


def sides(measured: Fact, allowed: Fact, *, raw: bool = False) -> tuple[str, str]:
    """Both sides of a rule in words."""
    return fact_text(measured, raw=raw), fact_text(allowed, raw=raw)
