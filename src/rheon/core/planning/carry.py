"""Pins of one title for another, and pins kept under a name. Pure."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator

from ..errors import BadPin
from ..media import AudioStream, Balance, SubtitleStream, Title, language_name
from .pins import AUTOMATIC
from .plan import OWN_KEYS, PIN_KEYS

FORMAT = "rheon-pins-1"


class PinSet(BaseModel):
    """Pins kept under a name, as they are stored and given away. ``balance`` is ``None`` where none was set by hand."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: str = FORMAT
    name: str = Field(min_length=1, max_length=80)
    balance: Balance | None = None
    pins: dict[str, str] = Field(default_factory=dict, max_length=len(PIN_KEYS))

    @field_validator("pins")
    @classmethod
    def _known(cls, pins: dict[str, str]) -> dict[str, str]:
        unknown = sorted(set(pins) - (set(PIN_KEYS) - OWN_KEYS))
        if unknown:
            raise ValueError(f"{', '.join(unknown)} can't be kept in a set")
        return pins

    @field_validator("format")
    @classmethod
    def _ours(cls, said: str) -> str:
        if said != FORMAT:
            raise ValueError(f"it is {said}, not {FORMAT}")
        return said


@dataclass(frozen=True, slots=True, kw_only=True)
class Carried:
    """Pins that hold for another title, and what could not be carried, in words."""

    pins: dict[str, str]
    left: tuple[str, ...] = ()


def load_pin_set(text: str) -> PinSet:
    """A set from its JSON document. Raises ``BadPin`` with a clause for each bad field."""
    try:
        return PinSet.model_validate_json(text)
    except ValidationError as error:
        clauses = [f"{'.'.join(map(str, fault['loc'])) or 'document'}: {fault['msg']}" for fault in error.errors()]
        raise BadPin(f"This is not a set of pins: {'; '.join(clauses)}.", pin="set") from error


def pin_set_text(kept: PinSet) -> str:
    return json.dumps(kept.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def carried(pins: Mapping[str, str], source: Title, target: Title) -> Carried:
    """The pins as they mean the same for ``target``: tracks by what they are, not by their place."""
    kept: dict[str, str] = {}
    left: list[str] = []
    for key, value in pins.items():
        if key in OWN_KEYS:
            continue
        made = value
        if key == "sound.track":
            made, lost = _tracks(value, source.audio, target.audio)
            left += lost
        elif key == "words.subtitle":
            made, lost = _tracks(value, source.subtitles, target.subtitles)
            left += lost
        if made:
            kept[key] = made
    return Carried(pins=kept, left=tuple(left))


def _tracks(
    value: str,
    source: Sequence[AudioStream] | Sequence[SubtitleStream],
    target: Sequence[AudioStream] | Sequence[SubtitleStream],
) -> tuple[str, list[str]]:
    if value in ("none", AUTOMATIC):
        return value, []
    places, lost = [], []
    for place in value.split(","):
        wanted = source[int(place)] if place.isdigit() and int(place) < len(source) else None
        found = _alike(wanted, target)
        if found is not None:
            places.append(str(found))
        elif wanted is not None:
            lost.append(f"no track in {language_name(wanted.language)} of this kind")
    return ",".join(dict.fromkeys(places)), lost


def _alike(
    wanted: AudioStream | SubtitleStream | None, target: Sequence[AudioStream] | Sequence[SubtitleStream]
) -> int | None:
    """The track of the same language and purpose, at the same place where there are several."""
    if wanted is None:
        return None
    same = [track for track in target if (track.language, track.purpose) == (wanted.language, wanted.purpose)]
    if isinstance(wanted, AudioStream):
        alike = [t for t in same if isinstance(t, AudioStream) and t.channels == wanted.channels]
        same = list(alike) or same
    best = min(same, key=lambda track: abs(track.index - wanted.index), default=None)
    return None if best is None else best.index
