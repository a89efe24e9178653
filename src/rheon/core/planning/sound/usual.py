"""What sound usually takes, where nobody counted."""

from __future__ import annotations

from ...formats import AUDIO_CODECS, sample_bits
from ...media import Action, AudioSettings, AudioStream

SURROUND_BPS, STEREO_BPS = 448_000.0, 192_000.0
LOSSLESS_BITS = 24
UNKNOWN_BPS = 700_000.0
"""More than any coded track of a DVD takes (AC-3: 640 kb/s at most, ATSC A/52, table 5.18)."""


def usual_audio_bps(track: AudioStream) -> float:
    """What a track of this kind usually takes."""
    if track.codec.startswith("pcm"):
        return float(sample_bits(track.codec) * track.sample_rate * track.channels)
    return SURROUND_BPS if track.channels > 2 else STEREO_BPS


def most_audio_bps(made: AudioSettings, track: AudioStream) -> float:
    """What a track of an output takes at most; lossless coding is bounded by the samples themselves."""
    if made.bitrate_bps:
        return float(made.bitrate_bps)
    if made.action is Action.COPY:
        return float(track.bitrate_bps or max(UNKNOWN_BPS, usual_audio_bps(track)))
    bits = AUDIO_CODECS[made.codec].bits or LOSSLESS_BITS
    return float(bits * made.sample_rate * made.channels)
