"""What devices can play: profiles, levels, rules, verdicts."""

from .asking import CLIPS, Clip, DeviceAnswers, asked_profile
from .catalogue import catalogue, device, goals, load_profile, profile_schema
from .common import common_ground
from .facts import MediaFacts, title_facts
from .finder import Answers, Match, nearest
from .plausible import Oddity, oddities
from .profile import AudioEntry, ContainerEntry, DeviceKind, DeviceProfile, Evidence, Limits, Screen, VideoEntry
from .rules import RuleResult, judge
from .tracks import needed_subtitle, preferred_audio
from .verdicts import ENCODABLE_AUDIO, ENCODABLE_VIDEO, Judgement, Verdict, judge_title

__all__ = [
    "CLIPS",
    "ENCODABLE_AUDIO",
    "ENCODABLE_VIDEO",
    "Answers",
    "AudioEntry",
    "Clip",
    "ContainerEntry",
    "DeviceAnswers",
    "DeviceKind",
    "DeviceProfile",
    "Evidence",
    "Judgement",
    "Limits",
    "Match",
    "MediaFacts",
    "Oddity",
    "RuleResult",
    "Screen",
    "Verdict",
    "VideoEntry",
    "asked_profile",
    "catalogue",
    "common_ground",
    "device",
    "goals",
    "judge",
    "judge_title",
    "load_profile",
    "nearest",
    "needed_subtitle",
    "oddities",
    "preferred_audio",
    "profile_schema",
    "title_facts",
]
