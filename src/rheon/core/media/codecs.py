"""What codecs and channel counts are called by people."""

from __future__ import annotations

CODEC_NAMES = {
    "h264": "H.264",
    "hevc": "HEVC",
    "mpeg4": "MPEG-4 part 2",
    "mpeg2video": "MPEG-2",
    "mpeg1video": "MPEG-1",
    "mjpeg": "Motion JPEG",
    "aac": "AAC",
    "mp3": "MP3",
    "mp2": "MP2",
    "ac3": "AC-3",
    "eac3": "E-AC-3",
    "dts": "DTS",
    "vc1": "VC-1",
    "vp8": "VP8",
    "vp9": "VP9",
    "av1": "AV1",
    "theora": "Theora",
    "wmv3": "WMV 9",
    "wmv2": "WMV",
    "flv1": "Sorenson H.263",
    "h263": "H.263",
    "dvvideo": "DV",
    "wmav2": "WMA",
    "truehd": "TrueHD",
    "amr_nb": "AMR",
    "alac": "ALAC",
    "pcm_bluray": "LPCM",
    "pcm_s24le": "PCM",
    "pcm_dvd": "LPCM",
    "pcm_s16le": "PCM",
    "flac": "FLAC",
    "opus": "Opus",
    "vorbis": "Vorbis",
}
CHANNEL_NAMES = {1: "mono", 2: "stereo", 6: "5.1", 8: "7.1"}


def codec_name(codec: str) -> str:
    """``MPEG-2`` for ``mpeg2video``; an unknown codec in capitals."""
    return CODEC_NAMES.get(codec, codec.upper())


def channels_text(channels: int) -> str:
    """``stereo``, ``5.1``, ``4 channels``."""
    return CHANNEL_NAMES.get(channels, f"{channels} channels")
