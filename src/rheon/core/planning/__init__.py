"""From the facts of a title and the abilities of devices to a plan that is right, minimal and explained."""

from ..media import (
    Action,
    AudioSettings,
    Balance,
    Fields,
    OutputSettings,
    SoundWish,
    SubtitleSettings,
    VideoSettings,
    WordsForm,
    WordsWish,
)
from .decisions import (
    DECISIONS,
    NO_PINS,
    Choice,
    Decision,
    DecisionKind,
    Pins,
    Range,
    kind_of,
    read_pins,
)
from .plan import Breach, Estimate, Plan
from .request import PlanRequest
from .solving.carry import Carried, PinSet, carried, load_pin_set, pin_set_text
from .solving.moves import Move, moves
from .solving.planner import plan
from .solving.serving import Serving, Shared, serve

__all__ = [
    "DECISIONS",
    "NO_PINS",
    "Action",
    "AudioSettings",
    "Balance",
    "Breach",
    "Carried",
    "Choice",
    "Decision",
    "DecisionKind",
    "Estimate",
    "Fields",
    "Move",
    "OutputSettings",
    "PinSet",
    "Pins",
    "Plan",
    "PlanRequest",
    "Range",
    "Serving",
    "Shared",
    "SoundWish",
    "SubtitleSettings",
    "VideoSettings",
    "WordsForm",
    "WordsWish",
    "carried",
    "kind_of",
    "load_pin_set",
    "moves",
    "pin_set_text",
    "plan",
    "read_pins",
    "serve",
]
