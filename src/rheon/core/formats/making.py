"""What Rheon can make, and what the registries say of a codec by its name."""

from __future__ import annotations

from collections.abc import Mapping

from .audio import AUDIO_CODECS
from .codec import AudioEncoder, VideoEncoder
from .level import Level
from .video import VIDEO_CODECS

ENCODABLE_VIDEO = frozenset(name for name, codec in VIDEO_CODECS.items() if codec.encoders)
ENCODABLE_AUDIO = frozenset(name for name, codec in AUDIO_CODECS.items() if codec.encoder)
PLAYED_MOST = tuple(sorted(ENCODABLE_VIDEO, key=lambda name: VIDEO_CODECS[name].played_rank))
"""Codecs in the order in which they are taken where a device plays several."""
SMALLEST_FIRST = tuple(sorted(ENCODABLE_VIDEO, key=lambda name: VIDEO_CODECS[name].small_rank))
"""The same for very large pictures."""
SOUND_PREFERRED = tuple(sorted(ENCODABLE_AUDIO, key=lambda name: AUDIO_CODECS[name].rank))


def video_encoder(codec: str, name: str | None = None) -> VideoEncoder:
    """The encoder of that name, else the codec's first. Raises ``KeyError`` where Rheon makes no such codec."""
    encoders = VIDEO_CODECS[codec].encoders
    if not encoders:
        raise KeyError(codec)
    return next((encoder for encoder in encoders if encoder.name == name), encoders[0])


def audio_encoder(codec: str) -> AudioEncoder:
    """Raises ``KeyError`` where Rheon makes no such codec."""
    encoder = AUDIO_CODECS[codec].encoder
    if encoder is None:
        raise KeyError(codec)
    return encoder


def encoder_names() -> frozenset[str]:
    """Every encoder that the engine must have, on any machine."""
    pictures = {one.name for codec in VIDEO_CODECS.values() for one in codec.encoders if one.hardware is None}
    return frozenset(pictures | {codec.encoder.name for codec in AUDIO_CODECS.values() if codec.encoder})


def profiles_of(codec: str) -> tuple[str, ...]:
    """The profiles of a codec, rising in what they can do."""
    if codec in VIDEO_CODECS:
        return tuple(VIDEO_CODECS[codec].profiles)
    return AUDIO_CODECS[codec].profiles if codec in AUDIO_CODECS else ()


def levels_of(codec: str, profile: str | None) -> Mapping[str, Level]:
    """The levels of a codec in rising order, with rates as the profile scales them; empty where it has none."""
    known = VIDEO_CODECS.get(codec)
    return known.levels_of(profile) if known else {}


def level_rank(codec: str, profile: str | None, level: str) -> int:
    """Where a level stands among its codec's, from 0; -1 for one that is not known."""
    names = list(levels_of(codec, profile))
    return names.index(level) if level in names else -1


def most_references(codec: str, level: Level, width: int, height: int) -> int:
    """How many reference frames the decoded picture buffer holds at this picture size."""
    return VIDEO_CODECS[codec].references(level, width, height)


def sample_bits(codec: str) -> int:
    """Bits of a sample that is kept as it is; 16 where nobody says more."""
    known = AUDIO_CODECS.get(codec)
    return (known.bits if known else None) or 16
