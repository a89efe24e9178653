"""Tiny sample clips that are generated to be played on a device that is asked what it plays."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from ..commands.clips import ClipFile
from ..commands.clips import clip as clip_command
from ..devices.capability_probe import Clip
from ..engine import Command, require, run
from ..formats import video_encoder
from ..media import Action, AudioSettings, VideoSettings

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
    picture, sound = _picture(clip) if clip.video else None, _sound(clip) if clip.audio else None
    run(
        Command(
            argv=clip_command(picture, sound, length_s, ClipFile(container=clip.container, target=str(target))),
            timeout_s=TIMEOUT_S,
        )
    )


def _picture(clip: Clip) -> VideoSettings:
    codec = clip.video or ""
    encoder = video_encoder(codec)
    return VideoSettings(
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
        preset=encoder.clip_preset,
    )


def _sound(clip: Clip) -> AudioSettings:
    return AudioSettings(
        action=Action.ENCODE,
        track=0,
        codec=clip.audio or "",
        channels=clip.channels,
        sample_rate=SAMPLE_RATE,
        source_channels=clip.channels,
        bitrate_bps=SOUND_BPS * clip.channels // 2,
    )
