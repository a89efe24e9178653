"""What sound takes, usually and at most, where nobody counted."""

from __future__ import annotations

from ...formats import AUDIO_CODECS, sample_bits
from ...media import Action, AudioSettings, AudioStream

SURROUND_BPS, STEREO_BPS = 448_000.0, 192_000.0
LOSSLESS_BITS = 24
MOST_BPS = 640_000.0
"""Of AC-3 (ATSC A/52, table 5.18); what is coded anew since then takes less."""
MOST_OF_DTS_BPS = 1_536_000.0
"""Of its core (ETSI TS 102 114, table 5-7)."""


def usual_audio_bps(track: AudioStream) -> float:
    """What a track of this kind usually takes."""
    if track.codec.startswith("pcm"):
        return float(sample_bits(track.codec) * track.sample_rate * track.channels)
    return SURROUND_BPS if track.channels > 2 else STEREO_BPS


def plain_bps(sound: AudioSettings) -> float | None:
    """The rate of uncompressed samples; ``None`` where they are compressed."""
    bits = AUDIO_CODECS[sound.codec].bits
    return None if bits is None else float(bits * sound.sample_rate * sound.channels)


def most_audio_bps(made: AudioSettings, track: AudioStream) -> float:
    """What a track of an output takes at most; lossless coding is bounded by the samples themselves."""
    known = made.bitrate_bps or plain_bps(made) or (track.bitrate_bps if made.action is Action.COPY else None)
    if known:
        return float(known)
    if AUDIO_CODECS[made.codec].lossless:
        return float(LOSSLESS_BITS * made.sample_rate * made.channels)
    return MOST_OF_DTS_BPS if made.codec == "dts" else MOST_BPS
