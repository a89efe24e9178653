"""A time that making a file may take: the preset that makes most of it."""

from __future__ import annotations

import math
from dataclasses import replace

from rheon.core.errors import BadPin
from rheon.core.formats import video_encoder
from rheon.core.media import Action
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions.picture import PRESET
from rheon.server.shelf.models import Title

from ..models import Target
from ..planning import request_for, stored_override


def pin_for_time(title: Title, target: Target, most_s: float) -> str:
    """The most thorough preset with which the file is expected in time. Raises ``BadPin``."""
    request = request_for(title, target, stored_override(title.pk, target.pk))
    free = _with_preset(request, None)
    made = free.settings.video if free.settings else None
    if made is None or made.action is not Action.ENCODE:
        raise BadPin("No picture is encoded here, so the time is that of copying.", advice="", pin=PRESET.key)
    speeds = video_encoder(made.codec, made.encoder).presets
    quickest_s = 0.0
    for preset in sorted(speeds, key=lambda name: speeds[name]):
        estimate = _with_preset(request, preset).estimate
        if estimate is None:
            continue
        if estimate.time_s <= most_s:
            return preset
        quickest_s = estimate.time_s
    raise BadPin(
        "At its quickest this takes about {minutes:g} minutes: ask for that, or for a smaller picture.",
        advice="",
        pin=PRESET.key,
        minutes=math.ceil(quickest_s / 6) / 10,
    )


def _with_preset(request: PlanRequest, preset: str | None) -> Plan:
    said = {key: value for key, value in request.pins.said.items() if key != PRESET.key}
    pins = read_pins({**said, PRESET.key: preset} if preset else said)
    return plan(replace(request, pins=pins), explained=False)
