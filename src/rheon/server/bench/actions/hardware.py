"""Measuring what encoders in hardware cost beside software, with a title that is there."""

from __future__ import annotations

import logging
import tempfile
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from rheon.core.encoding import Cost, is_measurable, measure_cost
from rheon.core.errors import BadPin, PlanError, RheonError
from rheon.core.media import HardwareEncoder, Machine, OutputSettings
from rheon.core.media.documents import dump
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.planning.decisions.picture import CODEC, ENCODER
from rheon.core.planning.decisions.picture.encoder import SOFTWARE
from rheon.server.home.actions.hardware import keep_cost
from rheon.server.home.hardware import unmeasured
from rheon.server.shelf.models import Title

from ..models import Target
from ..planning import request_for

log = logging.getLogger("rheon")
MOST_TITLES = 20
"""So many titles are looked at for one that both can make."""


def measure_hardware_now() -> None:
    """Measure what works and was not measured yet, as long as that matters; what can't be is noted as such."""
    while left := unmeasured():
        keep_cost(left[0].name, dump(_cost(left[0])))


def _cost(encoder: HardwareEncoder) -> Cost:
    for title, software, hardware in _pairs(encoder):
        try:
            with tempfile.TemporaryDirectory(prefix="rheon-") as work:
                cost = measure_cost(title.readable_title(), software, hardware, Path(work))
        except (RheonError, OSError) as error:
            log.warning("%s could not be measured with %s: %s", encoder.name, title.name, error)
        else:
            return replace(cost, title=title.name)
    return Cost()


def _pairs(encoder: HardwareEncoder) -> Iterator[tuple[Title, OutputSettings, OutputSettings]]:
    """Titles with what software and the encoder make of them, those first that somebody picked."""
    titles = Title.objects.filter(survey__isnull=False).select_related("source").order_by("pick", "id")
    targets = list(Target.objects.select_related("device__member"))
    for title in titles[:MOST_TITLES]:
        for target in targets:
            request = replace(request_for(title, target), balance=Balance.EVEN, machine=Machine(encoders=(encoder,)))
            software = _made(request, encoder.codec, SOFTWARE)
            hardware = _made(request, encoder.codec, encoder.family)
            if software and hardware and hardware.video and hardware.video.device:
                yield title, software, hardware
                break


def _made(request: PlanRequest, codec: str, made_by: str) -> OutputSettings | None:
    pins = read_pins({CODEC.key: codec, ENCODER.key: made_by})
    try:
        made = plan(replace(request, pins=pins), explained=False)
    except (BadPin, PlanError):
        return None
    return made.settings if made.settings and is_measurable(request.title, made.settings) else None
