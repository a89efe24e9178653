"""What a file says of how its light beyond white was mastered: its container, or the first picture itself."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Iterable, Mapping
from dataclasses import replace
from fractions import Fraction
from typing import Any

from ..commands import probing
from ..errors import EngineError
from ..media import HDR_TRANSFERS, Colour, Mastering, VideoStream, parse_fraction
from .probe_values import entries, mapping, whole
from .process import Command, run

CHROMATICITIES = tuple(f"{colour}_{axis}" for colour in ("green", "blue", "red", "white_point") for axis in "xy")
LUMINANCES = ("max_luminance", "min_luminance")
STEP, LUMINANCE_STEP = 50_000, 10_000
MOST_NITS = 10_000


TIMEOUT_S = 30


def with_mastering(path: str, video: VideoStream) -> Colour | None:
    """The picture's colours with what is told of their light; unchanged where there is none beyond white."""
    colour = video.colour
    if colour is None or colour.transfer not in HDR_TRANSFERS:
        return colour
    said: dict[str, Any] = {}
    with contextlib.suppress(EngineError, ValueError):
        argv = probing.picture_light(path, video.place or 0)
        said = json.loads(run(Command(argv=argv, timeout_s=TIMEOUT_S)).stdout or b"{}")
    told = [side for one in ("streams", "frames") for part in entries(mapping(said).get(one)) for side in _sides(part)]
    return replace(colour, peak_nits=_peak_nits(told), mastering=mastering_of(told))


def _sides(part: Mapping[str, Any]) -> list[dict[str, Any]]:
    return entries(part.get("side_data_list"))


def _peak_nits(told: Iterable[Mapping[str, Any]]) -> int | None:
    """The brightest picture element (CTA-861.3), else the most that the mastering display showed (SMPTE ST 2086)."""
    sides = list(told)
    found = [parse_fraction(str(one.get(key))) for key in ("max_content", "max_luminance") for one in sides]
    return next((round(nits) for nits in found if nits is not None and 0 < nits <= MOST_NITS), None)


def mastering_of(told: Iterable[Mapping[str, Any]]) -> Mastering | None:
    """``None`` where nothing is told, or only nonsense."""
    display: tuple[int, ...] | None = None
    content: tuple[int, int] | None = None
    for one in told:
        display = display or _display(one)
        content = content or _content(one)
    return Mastering(display=display, content=content) if display or content else None


def _display(said: Mapping[str, Any]) -> tuple[int, ...] | None:
    axes = [_steps(said.get(name), STEP, 1) for name in CHROMATICITIES]
    light = [_steps(said.get(name), LUMINANCE_STEP, MOST_NITS) for name in LUMINANCES]
    numbers = [one for one in (*axes, *light) if one is not None]
    whole_answer = len(numbers) == len(CHROMATICITIES) + len(LUMINANCES) and numbers[-1] < numbers[-2]
    return tuple(numbers) if whole_answer else None


def _content(said: Mapping[str, Any]) -> tuple[int, int] | None:
    brightest, mean = whole(said.get("max_content"), MOST_NITS), whole(said.get("max_average"), MOST_NITS)
    return (brightest, mean) if brightest and mean is not None else None


def _steps(value: object, steps: int, most: int) -> int | None:
    """A fraction in so many steps to one."""
    found = parse_fraction(str(value)) if value is not None else None
    return round(found * steps) if found is not None and Fraction(0) <= found <= most else None
