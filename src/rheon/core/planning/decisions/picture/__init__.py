"""Decisions about the picture, the coarse before the fine."""

from .aspect import ASPECT
from .buffer import BUFFER
from .codec import CODEC
from .colour import COLOUR
from .crop import CROP
from .deband import DEBAND
from .deinterlacer import DEINTERLACER
from .denoise import DENOISE
from .depth import DEPTH
from .encoder import ENCODER
from .field_order import FIELD_ORDER
from .fields import FIELDS
from .frame_rate import FRAME_RATE
from .keyframes import KEYFRAMES
from .level import LEVEL
from .passes import PASSES
from .peak import PEAK
from .pixels import PIXELS
from .preset import PRESET
from .profile import PROFILE
from .rate import RATE
from .rotation import ROTATION
from .screen_fit import SCREEN_FIT
from .size import SIZE

PICTURE = (
    CROP, SIZE, ASPECT, ROTATION, SCREEN_FIT, PIXELS, FRAME_RATE, FIELDS, FIELD_ORDER, DEINTERLACER, CODEC, PROFILE,
    LEVEL, DEPTH, COLOUR, DENOISE, DEBAND, RATE, PEAK, BUFFER, PASSES, KEYFRAMES, PRESET, ENCODER,
)  # fmt: skip

__all__ = [
    "ASPECT",
    "BUFFER",
    "CODEC",
    "COLOUR",
    "CROP",
    "DEBAND",
    "DEINTERLACER",
    "DENOISE",
    "DEPTH",
    "ENCODER",
    "FIELDS",
    "FIELD_ORDER",
    "FRAME_RATE",
    "KEYFRAMES",
    "LEVEL",
    "PASSES",
    "PEAK",
    "PICTURE",
    "PIXELS",
    "PRESET",
    "PROFILE",
    "RATE",
    "ROTATION",
    "SCREEN_FIT",
    "SIZE",
]
