"""From the facts of a title and the abilities of devices to a plan that is right, minimal and explained."""

from ..media import (
    Action,
    AudioSettings,
    Balance,
    Fields,
    OutputSettings,
    SoundWish,
    SubtitleForm,
    SubtitleSettings,
    SubtitleWish,
    VideoSettings,
)
from .decisions import (
    CALLED_NOW,
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
from .file.artwork import usual_cover
from .picture.fewer_lines import LINE_SHARES, fewer_lines
from .picture.frame import set_upright
from .plan import Breach, Estimate, Plan
from .played import played_sounds, switched_subtitles
from .request import PlanRequest
from .solving.in_time import preset_in_time
from .solving.minute import MINUTE_S, minute_plan, minute_request, minute_within
from .solving.plan_diff import DecisionChange, plan_diff
from .solving.planner import plan
from .solving.shaping import shaping
from .solving.sharing import Shared, Sharing, share_files
from .solving.transfer import PinSet, Transferred, load_pin_set, pin_set_text, transfer

__all__ = [
    "CALLED_NOW",
    "DECISIONS",
    "LINE_SHARES",
    "MINUTE_S",
    "NO_PINS",
    "Action",
    "AudioSettings",
    "Balance",
    "Breach",
    "Choice",
    "Decision",
    "DecisionChange",
    "DecisionKind",
    "Estimate",
    "Fields",
    "OutputSettings",
    "PinSet",
    "Pins",
    "Plan",
    "PlanRequest",
    "Range",
    "Shared",
    "Sharing",
    "SoundWish",
    "SubtitleForm",
    "SubtitleSettings",
    "SubtitleWish",
    "Transferred",
    "VideoSettings",
    "fewer_lines",
    "kind_of",
    "load_pin_set",
    "minute_plan",
    "minute_request",
    "minute_within",
    "pin_set_text",
    "plan",
    "plan_diff",
    "played_sounds",
    "preset_in_time",
    "read_pins",
    "set_upright",
    "shaping",
    "share_files",
    "switched_subtitles",
    "transfer",
    "usual_cover",
]
