"""Decisions about the file as a whole."""

from .artwork import ARTWORK
from .chapters import CHAPTERS
from .container import CONTAINER
from .name import NAME
from .pattern import PATTERN
from .tags import BY_TAG, TAGS

FILE = (CONTAINER, NAME, PATTERN, *TAGS, ARTWORK, CHAPTERS)

__all__ = ["ARTWORK", "BY_TAG", "CHAPTERS", "CONTAINER", "FILE", "NAME", "PATTERN", "TAGS"]
