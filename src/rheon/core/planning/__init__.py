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
from .carry import Carried, PinSet, carried, load_pin_set, pin_set_text
from .moves import Move, moves
from .plan import OWN_KEYS, PIN_KEYS, Breach, Choice, Decision, Estimate, Plan, PlanRequest, Range
from .planner import plan
from .serving import Serving, Shared, serve

__all__ = [
    "OWN_KEYS",
    "PIN_KEYS",
    "Action",
    "AudioSettings",
    "Balance",
    "Breach",
    "Carried",
    "Choice",
    "Decision",
    "Estimate",
    "Fields",
    "Move",
    "OutputSettings",
    "PinSet",
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
    "load_pin_set",
    "moves",
    "pin_set_text",
    "plan",
    "serve",
]
