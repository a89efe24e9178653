"""What sound usually takes, where nobody counted."""

from __future__ import annotations

from ...formats import sample_bits
from ...media import AudioStream

SURROUND_BPS, STEREO_BPS = 448_000.0, 192_000.0


def usual_audio_bps(track: AudioStream) -> float:
    """What a track of this kind usually takes."""
    if track.codec.startswith("pcm"):
        return float(sample_bits(track.codec) * track.sample_rate * track.channels)
    return SURROUND_BPS if track.channels > 2 else STEREO_BPS
