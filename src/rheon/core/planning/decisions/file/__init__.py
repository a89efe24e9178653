"""Decisions about the file as a whole."""

from .chapters import CHAPTERS
from .container import CONTAINER
from .name import NAME

FILE = (CONTAINER, NAME, CHAPTERS)

__all__ = ["CHAPTERS", "CONTAINER", "FILE", "NAME"]
