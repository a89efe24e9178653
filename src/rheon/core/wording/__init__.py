"""The one place where reasons, rules and measured values become words."""

from .facts import fact_text, sides
from .lengths import duration_text, ends_early_text, gap_text, missing_sentences
from .rules import CONSEQUENCES, RULE_NAMES
from .sentences import sentence, taken_text

__all__ = [
    "CONSEQUENCES",
    "RULE_NAMES",
    "duration_text",
    "ends_early_text",
    "fact_text",
    "gap_text",
    "missing_sentences",
    "sentence",
    "sides",
    "taken_text",
]
