"""Decisions about the picture, the coarse before the fine."""

from .aspect import ASPECT
from .buffer import BUFFER
from .cadence import CADENCE
from .codec import CODEC
from .colour import COLOUR
from .crop import CROP
from .deinterlacer import DEINTERLACER
from .depth import DEPTH
from .effort import EFFORT
from .fields import FIELDS
from .keyframes import KEYFRAMES
from .level import LEVEL
from .passes import PASSES
from .peak import PEAK
from .pixels import PIXELS
from .profile import PROFILE
from .rate import RATE
from .size import SIZE

PICTURE = (
    CROP, SIZE, ASPECT, PIXELS, CADENCE, FIELDS, DEINTERLACER, CODEC, PROFILE, LEVEL, DEPTH, COLOUR,
    RATE, PEAK, BUFFER, PASSES, KEYFRAMES, EFFORT,
)  # fmt: skip

__all__ = [
    "ASPECT",
    "BUFFER",
    "CADENCE",
    "CODEC",
    "COLOUR",
    "CROP",
    "DEINTERLACER",
    "DEPTH",
    "EFFORT",
    "FIELDS",
    "KEYFRAMES",
    "LEVEL",
    "PASSES",
    "PEAK",
    "PICTURE",
    "PIXELS",
    "PROFILE",
    "RATE",
    "SIZE",
]
