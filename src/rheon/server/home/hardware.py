"""Encoders in hardware on this machine: which work, which do not and why, and what they cost beside software."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path

from django.conf import settings

from rheon.core.catalogue import say
from rheon.core.encoding import Cost, HardwareTrial, hardware_mark, working
from rheon.core.formats import HARDWARE, codec_name
from rheon.core.media import HardwareEncoder
from rheon.core.media.documents import load
from rheon.core.wording import sentence

from . import documents
from .models import Home
from .queries import home

MOST_FAILURES = 2
"""One that failed at so many titles in a row is not used until somebody has it tried again."""


def devices() -> Path | None:
    """Where devices are looked for; ``None`` where the settings say that none are to be."""
    place: Path | None = settings.RHEON_HARDWARE
    return place


def is_tried() -> bool:
    """Whether this machine was tried as it is now."""
    place = devices()
    return place is None or home().hardware_mark == hardware_mark(place)


def trials_of(row: Home) -> tuple[HardwareTrial, ...]:
    return tuple(_held(load(HardwareTrial, one), row) for one in row.trials) if devices() else ()


def _held(trial: HardwareTrial, row: Home) -> HardwareTrial:
    """What a trial came to, and what titles did since."""
    said: list[str] = row.failures.get(trial.works.name, []) if trial.works else []
    return trial if len(said) < MOST_FAILURES else trial.failed_at_titles(said)


def costs_of(row: Home) -> Mapping[str, Cost]:
    """What was measured, by the encoder's name."""
    return {name: load(Cost, one) for name, one in row.costs.items()}


def encoders_of(row: Home) -> tuple[HardwareEncoder, ...]:
    """Those that work, with what was measured of them."""
    costs = costs_of(row)
    return tuple(
        replace(one, size_share=costs[one.name].size_share) if one.name in costs else one
        for one in working(trials_of(row))
    )


def unmeasured() -> tuple[HardwareEncoder, ...]:
    """What works and was not measured yet, where that matters."""
    row = home()
    return tuple(one for one in encoders_of(row) if one.name not in row.costs) if row.prefers_speed else ()


def hardware_document() -> documents.Hardware:
    row, costs = home(), costs_of(home())
    tried: dict[str, list[HardwareTrial]] = {}
    for trial in trials_of(row):
        tried.setdefault(trial.family, []).append(trial)
    return documents.Hardware(
        never=devices() is None,
        tried=bool(row.hardware_mark),
        prefers_speed=row.prefers_speed,
        measuring=bool(unmeasured()),
        families=[
            documents.HardwareFamily(
                label=HARDWARE[name].label,
                about=say(HARDWARE[name].about),
                codecs=[_codec(works, costs) for works in working(trials)],
                missing=[
                    documents.MissingCodec(codec=codec_name(trial.codec), why=sentence(trial.why))
                    for trial in trials
                    if trial.why
                ],
            )
            for name, trials in tried.items()
        ],
    )


def _codec(works: HardwareEncoder, costs: Mapping[str, Cost]) -> documents.HardwareCodec:
    cost = costs.get(works.name)
    return documents.HardwareCodec(
        codec=codec_name(works.codec),
        ten_bits=10 in works.depths,
        cost=documents.HardwareCost(size_share=cost.size_share, time_share=cost.time_share, measured_with=cost.title)
        if cost
        else None,
    )
