"""Encoders in hardware on this machine: which work, which do not and why, and what they cost beside software."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path

from django.conf import settings

from rheon.core.catalogue import say
from rheon.core.encoding import Cost, Trial, hardware_mark
from rheon.core.formats import HARDWARE, codec_name
from rheon.core.media import HardwareEncoder
from rheon.core.media.documents import load
from rheon.core.wording import sentence

from . import documents
from .models import Home
from .queries import home

MOST_FAILURES = 2
"""One that failed at so many titles in a row is not used until somebody has it tried again."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Hardware:
    """What plans rest on: encoders that work, whether they are preferred, and how quick the machine is without."""

    pace: float = 1.0
    encoders: tuple[HardwareEncoder, ...] = ()
    preferred: bool = False


def devices() -> Path | None:
    """Where devices are looked for; ``None`` where the settings say that none are to be."""
    place: Path | None = settings.RHEON_HARDWARE
    return place


def hardware() -> Hardware:
    row = home()
    costs = costs_of(row)
    working = [trial.works for trial in trials_of(row) if trial.works is not None]
    known = (replace(one, size_share=costs[one.name].size_share if one.name in costs else None) for one in working)
    return Hardware(pace=row.pace, encoders=tuple(known), preferred=row.prefers_speed)


def is_looked_for() -> bool:
    """Whether this machine was tried as it is now."""
    place = devices()
    return place is None or home().hardware_mark == hardware_mark(place)


def trials_of(row: Home) -> tuple[Trial, ...]:
    return tuple(_held(load(Trial, one), row) for one in row.trials) if devices() else ()


def _held(trial: Trial, row: Home) -> Trial:
    """What a trial came to, and what titles did since."""
    said: list[str] = row.failures.get(trial.works.name, []) if trial.works else []
    return trial if len(said) < MOST_FAILURES else trial.failed_at_titles(said)


def costs_of(row: Home) -> Mapping[str, Cost]:
    """What was measured, by the encoder's name."""
    return {name: load(Cost, one) for name, one in row.costs.items()}


def unmeasured() -> tuple[HardwareEncoder, ...]:
    """What works and was not measured yet, where that matters."""
    row = home()
    if not row.prefers_speed:
        return ()
    working = (trial.works for trial in trials_of(row) if trial.works is not None)
    return tuple(one for one in working if one.name not in row.costs)


def hardware_document() -> documents.Hardware:
    row, costs = home(), costs_of(home())
    tried: dict[str, list[Trial]] = {}
    for trial in trials_of(row):
        tried.setdefault(trial.family, []).append(trial)
    return documents.Hardware(
        never=devices() is None,
        tried=bool(row.hardware_mark),
        preferred=row.prefers_speed,
        measuring=bool(unmeasured()),
        families=[
            documents.HardwareFamily(
                label=HARDWARE[name].label,
                about=say(HARDWARE[name].about),
                codecs=[_codec(trial, costs) for trial in trials if trial.works],
                missing=[
                    documents.MissingCodec(codec=codec_name(trial.codec), why=sentence(trial.why))
                    for trial in trials
                    if trial.why
                ],
            )
            for name, trials in tried.items()
        ],
    )


def _codec(trial: Trial, costs: Mapping[str, Cost]) -> documents.HardwareCodec:
    assert trial.works is not None
    cost = costs.get(trial.works.name)
    return documents.HardwareCodec(
        codec=codec_name(trial.codec),
        ten_bits=10 in trial.works.depths,
        size_share=cost.size_share if cost else None,
        time_share=cost.time_share if cost else None,
        measured_with=cost.title if cost else "",
    )
