"""Pins of one title for another, and pins kept under a name. Pure."""

from __future__ import annotations

import json
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator

from ...errors import BadPin
from ...media import Balance, Title
from ..decisions import DECISIONS, Pins, read_pins

FORMAT = "rheon-pins-1"


class PinSet(BaseModel):
    """Pins kept under a name, as they are stored and given away. ``balance`` is ``None`` where none was set by hand."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: str = FORMAT
    name: str = Field(min_length=1, max_length=80)
    balance: Balance | None = None
    pins: dict[str, str] = Field(default_factory=dict, max_length=len(DECISIONS))

    @field_validator("pins")
    @classmethod
    def _known(cls, pins: dict[str, str]) -> dict[str, str]:
        unknown = sorted(key for key in pins if key not in DECISIONS or DECISIONS[key].own)
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
class Transferred:
    """Pins that hold for another title, and what could not be transferred, in words."""

    pins: Pins
    left: tuple[str, ...] = ()


def load_pin_set(text: str) -> PinSet:
    """A set from its JSON document. Raises ``BadPin`` with a clause for each bad field."""
    try:
        return PinSet.model_validate_json(text)
    except ValidationError as error:
        clauses = [f"{'.'.join(map(str, fault['loc'])) or 'document'}: {fault['msg']}" for fault in error.errors()]
        raise BadPin("This is not a set of pins: {clauses}.", clauses="; ".join(clauses), pin="set") from error


def pin_set_text(kept: PinSet) -> str:
    return json.dumps(kept.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def transfer(pins: Pins, source: Title, target: Title) -> Transferred:
    """The pins as they mean the same for ``target``: tracks by what they are, not by their place."""
    kept: dict[str, str] = {}
    left: list[str] = []
    for key, said in pins.said.items():
        kind = DECISIONS[key]
        if kind.own:
            continue
        made, lost = kind.transferred(pins.of(kind), source, target) if kind.transferred else (said, ())
        left += lost
        if made:
            kept[key] = made
    return Transferred(pins=read_pins(kept), left=tuple(left))
