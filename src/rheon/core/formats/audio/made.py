"""The codecs of sound that Rheon makes, an entry each."""

from __future__ import annotations

from ..codec import AudioCodec, AudioEncoder

MPEG_RATES = (32000, 44100, 48000)
# ATSC A/52 table 5.18
A52_KBPS = (32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384, 448, 512, 576, 640)

MADE = (
    AudioCodec(
        name="aac",
        label="AAC",
        standard="ISO/IEC 14496-3",
        profiles=("lc", "he", "he2"),
        read_profiles={"LC": "lc", "HE-AAC": "he", "HE-AACv2": "he2"},
        rank=0,
        encoder=AudioEncoder(
            name="aac",
            sample_rates=(8000, 11025, 12000, 16000, 22050, 24000, 32000, 44100, 48000, 88200, 96000),
            stereo_bps=(96_000, 128_000, 160_000, 192_000, 256_000),
            surround_bps=(256_000, 288_000, 320_000, 384_000, 448_000),
            priming=1024,
        ),
    ),
    AudioCodec(
        name="mp3",
        label="MP3",
        standard="ISO/IEC 11172-3, layer III",
        rank=1,
        encoder=AudioEncoder(
            name="libmp3lame",
            sample_rates=MPEG_RATES,
            most_channels=2,
            stereo_bps=(128_000, 160_000, 192_000, 224_000, 256_000),
            kbps=(32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320),
            priming=1105,
        ),
    ),
    AudioCodec(
        name="ac3",
        label="AC-3",
        stands_alone=True,
        standard="ATSC A/52",
        rank=2,
        encoder=AudioEncoder(
            name="ac3",
            sample_rates=MPEG_RATES,
            most_channels=6,
            stereo_bps=(192_000, 192_000, 224_000, 256_000, 320_000),
            surround_bps=(384_000, 384_000, 448_000, 448_000, 640_000),
            kbps=A52_KBPS,
            priming=256,
        ),
    ),
    AudioCodec(
        name="eac3",
        label="E-AC-3",
        stands_alone=True,
        standard="ATSC A/52, annex E",
        rank=3,
        encoder=AudioEncoder(
            name="eac3",
            sample_rates=MPEG_RATES,
            most_channels=6,
            stereo_bps=(128_000, 160_000, 192_000, 224_000, 256_000),
            surround_bps=(256_000, 320_000, 384_000, 448_000, 640_000),
            priming=256,
        ),
    ),
    AudioCodec(
        name="opus",
        label="Opus",
        standard="RFC 6716",
        rank=4,
        encoder=AudioEncoder(
            name="libopus",
            sample_rates=(48000,),
            stereo_bps=(64_000, 96_000, 112_000, 128_000, 160_000),
            surround_bps=(192_000, 224_000, 256_000, 320_000, 384_000),
            surround_arguments=(("-mapping_family", "1"),),
        ),
    ),
    AudioCodec(
        name="vorbis",
        label="Vorbis",
        rank=5,
        encoder=AudioEncoder(
            name="libvorbis",
            sample_rates=(22050, 32000, 44100, 48000, 96000),
            stereo_bps=(96_000, 112_000, 144_000, 176_000, 224_000),
            surround_bps=(256_000, 288_000, 320_000, 384_000, 448_000),
        ),
    ),
    AudioCodec(
        name="flac",
        label="FLAC",
        stands_alone=True,
        standard="RFC 9639",
        lossless=True,
        rank=6,
        encoder=AudioEncoder(
            name="flac",
            sample_rates=(8000, 16000, 22050, 32000, 44100, 48000, 88200, 96000),
            stereo_bps=(900_000,) * 5,
            surround_bps=(2_400_000,) * 5,
        ),
    ),
    AudioCodec(
        name="mp2",
        label="MP2",
        stands_alone=True,
        standard="ISO/IEC 11172-3, layer II",
        rank=7,
        encoder=AudioEncoder(
            name="mp2",
            sample_rates=MPEG_RATES,
            most_channels=2,
            stereo_bps=(192_000, 224_000, 256_000, 320_000, 384_000),
            kbps=(32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384),
            priming=481,
        ),
    ),
    AudioCodec(
        name="wmav2",
        label="WMA",
        rank=8,
        encoder=AudioEncoder(
            name="wmav2",
            sample_rates=(44100, 48000),
            most_channels=2,
            stereo_bps=(96_000, 128_000, 160_000, 192_000, 192_000),
            kbps=(32, 48, 64, 80, 96, 128, 160, 192),
            priming=2048,
        ),
    ),
)
"""The most widely played first."""
