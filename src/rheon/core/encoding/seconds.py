"""Seconds of a file instead of all of it, and the source beside them as clear as nobody can tell it from. Pure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from ..media import Action, Borders, OutputSettings, VideoSettings
from ..media.kept import KeptRange

FREE_BPS = 400_000_000


def only_seconds(made: OutputSettings, stretches: Sequence[KeptRange]) -> OutputSettings:
    """The settings for some stretches of the title alone, in one pass: two would measure nothing of the whole."""
    return replace(
        made,
        video=replace(made.video, passes=1) if made.video else None,
        kept=tuple(stretches),
        middles=(),
        cut_as_copy=False,
        chapters=False,
        asked_bytes=None,
        duration_s=sum(one.length_s for one in stretches),
    )


def clear(made: VideoSettings, size: tuple[int, int], quality: int) -> VideoSettings:
    """The same pictures in H.264, quickly made and at a rate that is not held down; square pixels, nothing around."""
    width, height = size
    return replace(
        made,
        action=Action.ENCODE,
        codec="h264",
        encoder="libx264",
        profile="high",
        level=None,
        preset="ultrafast",
        bit_depth=8,
        width=width,
        height=height,
        sample_aspect=Fraction(1),
        pad=Borders(),
        denoise=0.0,
        deband=0.0,
        parts=(),
        edges=None,
        quality=quality,
        bitrate_bps=None,
        passes=1,
        peak_bps=FREE_BPS,
        buffer_bits=FREE_BPS,
        reference_frames=1,
        b_frames=0,
        keyframe_frames=50,
    )


def even(side: Fraction) -> int:
    """The nearest side of whole pairs of pixels."""
    return max(2, 2 * round(side / 2))
