"""What a plan is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated

from pydantic import PlainSerializer, PlainValidator

from ..devices import DeviceProfile
from ..media import (
    USUAL_MACHINE,
    Balance,
    FileData,
    KeptRange,
    Machine,
    MeasuredRate,
    ProposedTags,
    Samples,
    SoundWish,
    SubtitleWish,
    Title,
)
from ..naming.patterns import FLAT, Naming
from .decisions import NO_PINS, Pins, read_pins
from .decisions.picture import CODEC
from .decisions.picture.codec import COPY
from .decisions.range import WHOLE, RangeChoice


def _pins(said: object) -> Pins:
    if isinstance(said, Pins):
        return said
    if not isinstance(said, Mapping):
        raise ValueError("pins are a mapping of decisions to values")
    return read_pins(said)


StoredPins = Annotated[Pins, PlainValidator(_pins), PlainSerializer(lambda pins: dict(pins.said), return_type=dict)]
"""Pins as they are stored: by what was said."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRequest:
    """A title, the devices one file is for, and what the person wants. ``languages`` are BCP 47, the dearest first.

    ``name`` is what the title is called where no tag says it; files are called by ``naming``.
    ``samples`` is ``None`` where nobody measured, and the estimates are guesses then. ``copy_ranges`` are the stretches
    that copied streams can have instead of what is kept, in its order, ``middles`` what of each stretch can be copied
    where only its edges are encoded; ``None`` where nobody looked, or where that can't be. ``hardware_failed``:
    an encoder in hardware made no file of it. ``measured_rates`` are those of pictures of which seconds were made, by
    their ``picture_mark``. ``set_by_hand``: the title has tags, chapters or a picture that its source lacks.
    ``range`` is filled in by the planner: ``title`` is then what is kept of it.
    """

    title: Title
    devices: tuple[DeviceProfile, ...]
    name: str
    balance: Balance = Balance.EVEN
    pins: StoredPins = NO_PINS
    languages: tuple[str, ...] = ()
    sound: SoundWish = SoundWish.SURROUND
    subtitles: SubtitleWish = SubtitleWish.NEEDED
    samples: Samples | None = None
    measured_rates: Mapping[str, MeasuredRate] = field(default_factory=dict)
    copy_ranges: tuple[KeptRange, ...] | None = None
    middles: tuple[KeptRange, ...] | None = None
    machine: Machine = USUAL_MACHINE
    tags: ProposedTags = field(default_factory=ProposedTags)
    naming: Naming = FLAT
    hardware_failed: bool = False
    set_by_hand: bool = False
    range: RangeChoice = WHOLE

    @property
    def cut_exactly(self) -> bool:
        """Whether what is kept has to begin and end at pictures where a copied stream may have no beginning."""
        if self.range.kept:
            return not self.range.as_copy and not self.range.middles
        data, copied = self.title.data, self.pins.of(CODEC) == COPY
        part = isinstance(data, FileData) and self.title.part_of is not None and data.from_s > 0
        return part and self.title.video is not None and not copied

    @property
    def cuts_sound(self) -> bool:
        """Whether sound has to be made anew to be cut: several stretches of it can't follow each other as they are."""
        return self.cut_exactly or len(self.range.kept) > 1
