"""What devices can play: profiles, levels, rules, verdicts."""

from .capability_probe import CLIPS, Clip, DeviceAnswers, asked_profile
from .catalogue import catalogue, device, goals, load_profile, profile_schema
from .certainty import Line, careful, doubtful, line_text, lines, open_questions
from .common import common_ground
from .facts import MediaFacts, title_facts
from .failing import Trouble, failed, trial_failed
from .finder import Answers, Found, find
from .hearing import Heard, hear
from .kinds import Family, Generation, Span, families
from .learning import answered, answered_all, asked_besides, played, written
from .plausible import Oddity, oddities
from .profile import (
    AudioEntry,
    ContainerEntry,
    DeviceKind,
    DeviceProfile,
    Evidence,
    Ground,
    Limits,
    Screen,
    SubtitleEntry,
    Sure,
    VideoEntry,
)
from .questions import QUESTIONS, Question
from .renewing import Change, Renewal, renewed
from .rules import RuleResult, judge
from .tracks import needed_subtitle, preferred_audio
from .trials import trial, trial_name
from .verdicts import Judgement, Verdict, judge_title

__all__ = [
    "CLIPS",
    "QUESTIONS",
    "Answers",
    "AudioEntry",
    "Change",
    "Clip",
    "ContainerEntry",
    "DeviceAnswers",
    "DeviceKind",
    "DeviceProfile",
    "Evidence",
    "Family",
    "Found",
    "Generation",
    "Ground",
    "Heard",
    "Judgement",
    "Limits",
    "Line",
    "MediaFacts",
    "Oddity",
    "Question",
    "Renewal",
    "RuleResult",
    "Screen",
    "Span",
    "SubtitleEntry",
    "Sure",
    "Trouble",
    "Verdict",
    "VideoEntry",
    "answered",
    "answered_all",
    "asked_besides",
    "asked_profile",
    "careful",
    "catalogue",
    "common_ground",
    "device",
    "doubtful",
    "failed",
    "families",
    "find",
    "goals",
    "hear",
    "judge",
    "judge_title",
    "line_text",
    "lines",
    "load_profile",
    "needed_subtitle",
    "oddities",
    "open_questions",
    "played",
    "preferred_audio",
    "profile_schema",
    "renewed",
    "title_facts",
    "trial",
    "trial_failed",
    "trial_name",
    "written",
]
