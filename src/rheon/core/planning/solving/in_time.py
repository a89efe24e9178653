"""A time that making a file may take: the preset that makes most of it. Pure."""

from __future__ import annotations

import math
from dataclasses import replace

from ...formats import video_encoder
from ...media import Action
from ..decisions import read_pins
from ..decisions.picture import PRESET
from ..plan import Plan
from ..request import PlanRequest
from .planner import plan


def preset_in_time(request: PlanRequest, most_s: float) -> str:
    """The most thorough preset with which the file is expected in so many seconds.

    Raises ``BadPin`` where no picture is encoded, or where none is quick enough, and says how long the quickest takes.
    """
    settings = _with_preset(request, None).settings
    made = settings.video if settings else None
    if made is None or made.action is not Action.ENCODE:
        raise PRESET.refuse("No picture is encoded here, so the time is that of copying.")
    speeds = video_encoder(made.codec, made.encoder).presets
    expected_s = 0.0
    for preset in sorted(speeds, key=lambda name: speeds[name]):
        if (estimate := _with_preset(request, preset).estimate) is None:
            continue
        if estimate.time_s <= most_s:
            return preset
        expected_s = estimate.time_s
    raise PRESET.refuse(
        "At its quickest this takes about {minutes:g} minutes: ask for that, or for a smaller picture.",
        minutes=math.ceil(expected_s / 6) / 10,
    )


def _with_preset(request: PlanRequest, preset: str | None) -> Plan:
    said = {key: value for key, value in request.pins.said.items() if key != PRESET.key}
    pins = read_pins({**said, PRESET.key: preset} if preset else said)
    return plan(replace(request, pins=pins), explained=False)
