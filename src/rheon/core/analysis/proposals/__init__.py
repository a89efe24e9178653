"""What of a title could be left out: leaders, logos, openings, credits. Nothing here cuts anything."""

from .credits import find_credits
from .leaders import Leaders, find_leaders
from .prints import Prints, prints_of
from .proposed import Proposal, Why, proposed
from .shared import MOST_OTHERS, Shared, Sibling, find_shared

__all__ = [
    "MOST_OTHERS",
    "Leaders",
    "Prints",
    "Proposal",
    "Shared",
    "Sibling",
    "Why",
    "find_credits",
    "find_leaders",
    "find_shared",
    "prints_of",
    "proposed",
]
