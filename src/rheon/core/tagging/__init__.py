"""What is written into a finished file for people: tags, in the way of its container."""

from .reading import tags_of_file
from .writing import TAGGED, retag, tagged_copy, write_tags

__all__ = ["TAGGED", "retag", "tagged_copy", "tags_of_file", "write_tags"]
