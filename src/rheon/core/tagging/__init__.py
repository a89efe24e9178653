"""What is written into a finished file for people: tags, in the way of its container."""

from .sound import COMMENTED, read_description
from .writing import TAGGED, retag, tagged_copy, write_tags

__all__ = ["COMMENTED", "TAGGED", "read_description", "retag", "tagged_copy", "write_tags"]
