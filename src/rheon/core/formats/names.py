"""What codecs, profiles and channel counts are called by people."""

from __future__ import annotations

from ..catalogue import say
from .audio import AUDIO_CODECS
from .video import VIDEO_CODECS

CHANNEL_NAMES = {1: "mono", 2: "stereo", 6: "5.1", 8: "7.1"}


def codec_name(codec: str) -> str:
    """``MPEG-2`` for ``mpeg2video``; an unknown codec in capitals."""
    known = VIDEO_CODECS.get(codec) or AUDIO_CODECS.get(codec)
    return known.label if known else codec.upper()


def channels_text(channels: int) -> str:
    """``stereo``, ``5.1``, ``4 channels``."""
    return CHANNEL_NAMES.get(channels, say("{channels} channels", channels=channels))
