"""Tiny sample clips that are generated to be played on a device that is asked what it plays."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from ..devices.asking import Clip
from ..engine import Command, require, run
from ..formats import CONTAINERS, video_encoder
from ..media import Action, AudioSettings, VideoSettings
from .encoders import Placing, audio_arguments, video_arguments
from .filters import PIXEL_FORMATS

LENGTH_S, UHD_LENGTH_S = 0.8, 0.5
WATCHED_S, UHD_WATCHED_S = 4.0, 2.0
"""A file that somebody looks at; pictures of ultra high definition take long to make."""
UHD_LINES = 2160
SAMPLE_RATE = 48000
CLIP_BPS = 2_000_000
SOUND_BPS = 128_000
TIMEOUT_S = 120


def make_clip(clip: Clip, target: Path, *, watched: bool = False) -> None:
    """Write the clip to ``target``: a moving test picture, a tone, or both; longer where somebody will watch it.

    Raises ``EngineError``.
    """
    require("ffmpeg")
    usual, uhd = (WATCHED_S, UHD_WATCHED_S) if watched else (LENGTH_S, UHD_LENGTH_S)
    length_s = uhd if clip.height >= UHD_LINES else usual
    sources = [*(_picture_source(clip, length_s) if clip.video else ()), *(_tone(clip, length_s) if clip.audio else ())]
    argv = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-nostdin", "-y", *sources]
    argv += [*(_picture(clip) if clip.video else ()), *(_sound(clip) if clip.audio else ())]
    home = CONTAINERS[clip.container]
    run(Command(argv=[*argv, *home.muxing, "-f", home.muxer, f"file:{target}"], timeout_s=TIMEOUT_S))


def _picture_source(clip: Clip, length_s: float) -> list[str]:
    return ["-f", "lavfi", "-i", f"testsrc2=size={clip.width}x{clip.height}:rate={clip.rate}:duration={length_s}"]


def _tone(clip: Clip, length_s: float) -> list[str]:
    tones = "|".join(["0.2*sin(440*2*PI*t)"] * clip.channels)
    layout = "5.1" if clip.channels == 6 else "stereo"
    return ["-f", "lavfi", "-i", f"aevalsrc={tones}:s={SAMPLE_RATE}:d={length_s}:c={layout}"]


def _picture(clip: Clip) -> list[str]:
    codec = clip.video or ""
    encoder = video_encoder(codec)
    settings = VideoSettings(
        action=Action.ENCODE,
        codec=codec,
        width=clip.width,
        height=clip.height,
        sample_aspect=Fraction(1),
        frame_rate=Fraction(clip.rate),
        profile=clip.profile,
        level=clip.level,
        bit_depth=clip.depth,
        encoder=encoder.name,
        quality=encoder.clip_quality,
        bitrate_bps=None if encoder.clip_quality is not None else CLIP_BPS,
        peak_bps=8_000_000,
        buffer_bits=8_000_000,
        reference_frames=2,
        keyframe_frames=clip.rate,
        effort=encoder.clip_effort,
    )
    return ["-pix_fmt", PIXEL_FORMATS[clip.depth], *video_arguments(settings, clip.container, 0)]


def _sound(clip: Clip) -> list[str]:
    settings = AudioSettings(
        action=Action.ENCODE,
        track=0,
        codec=clip.audio or "",
        channels=clip.channels,
        sample_rate=SAMPLE_RATE,
        source_channels=clip.channels,
        bitrate_bps=SOUND_BPS * clip.channels // 2,
    )
    return audio_arguments(settings, Placing(place=0, container=clip.container, filtered=False))
