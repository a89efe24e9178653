"""The one place where reasons, rules and measured values become words."""

from .facts import DYNAMIC_RANGES, fact_text, sides
from .lengths import (
    duration_text,
    ends_early_text,
    gap_text,
    missing_sentences,
    moment_text,
    ranges_text,
    sides_text,
    size_text,
)
from .problems import problem_text
from .rules import CONSEQUENCES, RULE_NAMES, consequence, rule_name
from .sentences import sentence, taken_text

__all__ = [
    "CONSEQUENCES",
    "DYNAMIC_RANGES",
    "RULE_NAMES",
    "consequence",
    "duration_text",
    "ends_early_text",
    "fact_text",
    "gap_text",
    "missing_sentences",
    "moment_text",
    "problem_text",
    "ranges_text",
    "rule_name",
    "sentence",
    "sides",
    "sides_text",
    "size_text",
    "taken_text",
]
