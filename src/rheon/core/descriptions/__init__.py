"""What titles, devices and files are, in words for people."""

from .device import Ability, abilities, summary
from .output import instead_text, settings_text
from .title import Fact, borders_text, heard_text, lines_text, picture_facts

__all__ = [
    "Ability",
    "Fact",
    "abilities",
    "borders_text",
    "heard_text",
    "instead_text",
    "lines_text",
    "picture_facts",
    "settings_text",
    "summary",
]
