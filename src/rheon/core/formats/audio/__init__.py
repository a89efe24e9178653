"""The registry of codecs of sound: what Rheon makes in ``made.py``, what is only read or kept has a line here."""

from ..codec import AudioCodec
from .made import MADE

ONLY_READ = (
    AudioCodec(name="dts", label="DTS", standard="ETSI TS 102 114", stands_alone=True),
    AudioCodec(name="truehd", label="TrueHD", lossless=True),
    AudioCodec(name="amr_nb", label="AMR", standard="3GPP TS 26.071"),
    AudioCodec(name="alac", label="ALAC", lossless=True, stands_alone=True),
    AudioCodec(name="pcm_dvd", label="LPCM", bits=16, kept_as="pcm_s16le"),
    AudioCodec(name="pcm_bluray", label="LPCM", bits=16, kept_as="pcm_s24le"),
    AudioCodec(name="pcm_s16le", label="PCM", bits=16),
    AudioCodec(name="pcm_s24le", label="PCM", bits=24),
    AudioCodec(name="pcm_s24be", label="PCM", bits=24),
)
AUDIO_CODECS = {codec.name: codec for codec in (*MADE, *ONLY_READ)}
