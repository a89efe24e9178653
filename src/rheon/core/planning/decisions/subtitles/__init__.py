"""Decisions about subtitles."""

from .form import FORM
from .lines import LINES
from .tracks import SUBTITLES

WORDS = (SUBTITLES, FORM, LINES)

__all__ = ["FORM", "LINES", "SUBTITLES", "WORDS"]
