"""Decisions about subtitles."""

from .form import FORM
from .lines import LINES
from .tracks import SUBTITLES

OF_SUBTITLES = (SUBTITLES, FORM, LINES)

__all__ = ["FORM", "LINES", "OF_SUBTITLES", "SUBTITLES"]
