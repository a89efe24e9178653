"""Decisions about sound."""

from .bitrate import BITRATE
from .channels import CHANNELS
from .codec import SOUND_CODEC
from .gain import GAIN
from .sample_rate import SAMPLE_RATE
from .track import TRACK

SOUND = (TRACK, SOUND_CODEC, CHANNELS, SAMPLE_RATE, BITRATE, GAIN)

__all__ = ["BITRATE", "CHANNELS", "GAIN", "SAMPLE_RATE", "SOUND", "SOUND_CODEC", "TRACK"]
