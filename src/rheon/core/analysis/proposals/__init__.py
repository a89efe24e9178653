"""What of a title could be left out: leaders, logos, openings, credits. Nothing here cuts anything."""

from .credits import find_credits
from .leaders import Leaders, find_leaders
from .proposed import Proposal, Why, proposed
from .shared import MOST_OTHERS, Shared, Sibling, find_shared
from .sound_fingerprints import SoundFingerprints, sound_fingerprints_of

__all__ = [
    "MOST_OTHERS",
    "Leaders",
    "Proposal",
    "Shared",
    "Sibling",
    "SoundFingerprints",
    "Why",
    "find_credits",
    "find_leaders",
    "find_shared",
    "proposed",
    "sound_fingerprints_of",
]
