"""From the facts of a title and the abilities of devices to a plan that is right, minimal and explained."""

from .plan import PIN_KEYS, Balance, Choice, Decision, Estimate, Plan, PlanRequest
from .planner import plan
from .settings import Action, AudioSettings, OutputSettings, SubtitleSettings, VideoSettings

__all__ = [
    "PIN_KEYS",
    "Action",
    "AudioSettings",
    "Balance",
    "Choice",
    "Decision",
    "Estimate",
    "OutputSettings",
    "Plan",
    "PlanRequest",
    "SubtitleSettings",
    "VideoSettings",
    "plan",
]
