"""What there is to be read and made: codecs with their levels and encoders, containers, forms of subtitles.

One entry each, by its standard; everything else asks here.
"""

from .audio import AUDIO_CODECS
from .codec import AudioCodec, AudioEncoder, SubtitleFormat, VideoCodec, VideoEncoder
from .containers import CONTAINERS, INDEXED, READ_AS, Container, can_hold
from .hardware import HARDWARE, Family
from .level import Level
from .making import (
    ENCODABLE_AUDIO,
    ENCODABLE_VIDEO,
    PLAYED_MOST,
    SMALLEST_FIRST,
    SOUND_PREFERRED,
    audio_encoder,
    encoder_names,
    level_rank,
    levels_of,
    most_references,
    profiles_of,
    sample_bits,
    video_encoder,
)
from .media_types import PLAYED_BY_BROWSERS, features_on_network, media_type, protocol_info, type_on_network
from .names import channels_text, codec_name
from .subtitles import SUBTITLE_FORMATS, is_text
from .video import VIDEO_CODECS

__all__ = [
    "AUDIO_CODECS",
    "CONTAINERS",
    "ENCODABLE_AUDIO",
    "ENCODABLE_VIDEO",
    "HARDWARE",
    "INDEXED",
    "PLAYED_BY_BROWSERS",
    "PLAYED_MOST",
    "READ_AS",
    "SMALLEST_FIRST",
    "SOUND_PREFERRED",
    "SUBTITLE_FORMATS",
    "VIDEO_CODECS",
    "AudioCodec",
    "AudioEncoder",
    "Container",
    "Family",
    "Level",
    "SubtitleFormat",
    "VideoCodec",
    "VideoEncoder",
    "audio_encoder",
    "can_hold",
    "channels_text",
    "codec_name",
    "encoder_names",
    "features_on_network",
    "is_text",
    "level_rank",
    "levels_of",
    "media_type",
    "most_references",
    "profiles_of",
    "protocol_info",
    "sample_bits",
    "type_on_network",
    "video_encoder",
]
