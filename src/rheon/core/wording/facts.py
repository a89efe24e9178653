"""Measured and allowed values as words: one way of saying for each unit."""

from __future__ import annotations

from collections.abc import Callable

from ..catalogue import later, say, say_count
from ..formats import CONTAINERS, codec_name
from ..media import Gap
from ..media.facts import Bound, Fact, Unit, Value
from .lengths import duration_text, gap_text

DYNAMIC_RANGES = {"standard": later("standard"), "hdr10": later("HDR10"), "hlg": later("HLG")}
INDEX = {"in_front": later("in front"), "at_end": later("at the end")}


def fact_text(found: Fact, *, raw: bool = False) -> str:
    """One side of a rule in words; ``raw`` leaves codecs and containers by the names that programs use."""
    if found.bound is Bound.ANY:
        return say("any")
    said = SAYS[found.unit]
    if not raw and found.unit in NAMED:
        said = _list(NAMED[found.unit])
    text = said(found)
    return say("up to {value}", value=text) if found.bound is Bound.AT_MOST else text


def _number(value: Value) -> float:
    return float(value) if not isinstance(value, str) else 0.0


def _list(each: Callable[[Value], str], after: str = "") -> Callable[[Fact], str]:
    def said(found: Fact) -> str:
        return say(" or ").join(map(each, found.values)) + after if found.values else say("none")

    return said


def _one(each: Callable[[float], str]) -> Callable[[Fact], str]:
    return lambda found: each(_number(found.values[0]))


def _bytes(found: Fact) -> str:
    megabytes = _number(found.values[0]) / 1e6
    if megabytes < 10:
        return f"{megabytes:.3g} MB"
    return f"{megabytes:.0f} MB" if found.bound is Bound.AT_MOST else f"{megabytes:.1f} MB"


def _rate(found: Fact) -> str:
    rate = _number(found.values[0])
    return f"{rate:g}" if found.bound is Bound.AT_MOST else f"{rate:.3f}"


def _shape(found: Fact) -> str:
    if isinstance(found.values[0], str):
        return found.values[0]
    above, below, shown = found.values
    return say("{above}:{below} ({shown} shown)", above=above, below=below, shown=shown)


def _through(found: Fact) -> str:
    peak, buffer = map(_number, found.values)
    return say("{peak:.2f} Mb/s through {buffer:.1f} Mb", peak=peak / 1e6, buffer=buffer / 1e6)


def _seconds(found: Fact) -> str:
    text = f"{_number(found.values[0]):.2f} s"
    return say("{length}, within {slack:g} s", length=text, slack=found.slack) if found.bound is Bound.NEAR else text


def _step(found: Fact) -> str:
    return say("a picture each {step:.1f} ms", step=_number(found.values[0]) * 1000)


def _source_end(found: Fact) -> str:
    return say("the source ends at {at}", at=duration_text(_number(found.values[0])))


def _promised_end(found: Fact) -> str:
    return say("{length}, as its header says", length=duration_text(_number(found.values[0])))


def _damage(found: Fact) -> str:
    count, at_s = map(_number, found.values)
    return say_count(
        "a damaged place on the source, the first near {at_s:.0f} s",
        "{count} damaged places on the source, the first near {at_s:.0f} s",
        int(count),
        at_s=at_s,
    )


def _end(found: Fact) -> str:
    at = f"{_number(found.values[0]):.2f} s"
    return say("{at}, as on the source", at=at) if found.bound is Bound.NEAR else say("ends at {at}", at=at)


def _picture(found: Fact) -> str:
    if not found.values:
        return say("no picture")
    width, height, codec = found.values
    return f"{width}×{height} {codec}"


def _sounds(found: Fact) -> str:
    pairs = zip(found.values[::2], found.values[1::2], strict=True)
    said = [say("{codec}, {channels} channels", codec=codec, channels=channels) for codec, channels in pairs]
    return "; ".join(said) or say("no sound")


def _tracks(found: Fact) -> str:
    return say_count("{count} track", "{count} tracks", int(_number(found.values[0])))


def _decoded(found: Fact) -> str:
    if not found.values:
        return say("no errors")
    frames, errors, *first = found.values
    faults = say_count("{count} error", "{count} errors", int(_number(errors))) if errors else say("no errors")
    text = say("{frames} frames, {faults}", frames=frames, faults=faults)
    return f"{text} ({first[0]})" if first else text


def _copied(found: Fact) -> str:
    count = int(_number(found.values[0]))
    return say_count("{count} file, every SHA-256 the same", "{count} files, every SHA-256 the same", count)


def _container(name: Value) -> str:
    if name == "dvd":
        return "DVD"
    return CONTAINERS[str(name)].label if name in CONTAINERS else str(name)


NAMED: dict[Unit, Callable[[Value], str]] = {
    Unit.CODEC: lambda name: codec_name(str(name)),
    Unit.CONTAINER: _container,
    Unit.DYNAMIC_RANGE: lambda name: say(DYNAMIC_RANGES[str(name)]),
}
SAYS: dict[Unit, Callable[[Fact], str]] = {
    Unit.WORD: _list(str),
    Unit.CONTAINER: _list(str),
    Unit.CODEC: _list(str),
    Unit.INDEX: _list(lambda place: say(INDEX[str(place)])),
    Unit.BYTES: _bytes,
    Unit.PIXELS: lambda found: "×".join(map(str, found.values)),
    Unit.SHAPE: _shape,
    Unit.PICTURES_A_SECOND: _rate,
    Unit.COUNT: _list(str),
    Unit.BITS: _list(str, " bits"),
    Unit.DYNAMIC_RANGE: _list(str),
    Unit.BITS_A_SECOND: _one(lambda bps: f"{bps / 1e6:.1f} Mb/s"),
    Unit.THROUGH_A_BUFFER: _through,
    Unit.AUDIO_BITS_A_SECOND: _one(lambda bps: f"{bps / 1000:.0f} kb/s"),
    Unit.HERTZ: _list(lambda rate: f"{_number(rate) / 1000:g}", " kHz"),
    Unit.SECONDS: _seconds,
    Unit.STEP: _step,
    Unit.END: _end,
    Unit.SOURCE_END: _source_end,
    Unit.PROMISED_END: _promised_end,
    Unit.GAP: lambda found: gap_text(Gap(from_s=_number(found.values[0]), to_s=_number(found.values[1]))),
    Unit.DAMAGE: _damage,
    Unit.TOLD: lambda found: say("told, not hidden"),
    Unit.PICTURE: _picture,
    Unit.SOUNDS: _sounds,
    Unit.TRACKS: _tracks,
    Unit.DECODED: _decoded,
    Unit.COPIED_FILES: _copied,
    Unit.AS_ON_SOURCE: lambda found: say("as on the source"),
}


def sides(measured: Fact, allowed: Fact, *, raw: bool = False) -> tuple[str, str]:
    """Both sides of a rule in words."""
    return fact_text(measured, raw=raw), fact_text(allowed, raw=raw)
