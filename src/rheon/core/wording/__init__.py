"""The one place where reasons, rules and findings become words."""

from .sentences import (
    CONSEQUENCES,
    RULE_NAMES,
    duration_text,
    ends_early_text,
    gap_text,
    missing_sentences,
    rule_sides,
    sentence,
)

__all__ = [
    "CONSEQUENCES",
    "RULE_NAMES",
    "duration_text",
    "ends_early_text",
    "gap_text",
    "missing_sentences",
    "rule_sides",
    "sentence",
]
