"""Windows Media Video 8. It names neither profiles nor levels."""

from __future__ import annotations

from ...media import VideoSettings
from ..codec import VideoCodec, VideoEncoder
from .arguments import passes, rate


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    return [*rate(made), *passes(at_pass)]


WMV = VideoCodec(
    name="wmv2",
    label="WMV",
    played_rank=6,
    small_rank=6,
    encoders=(
        VideoEncoder(
            name="wmv2",
            presets={"medium": 200e6},
            preset=("medium",) * 5,
            bits_per_pixel=0.170,
            references=1,
            b_frames=0,
            arguments=_arguments,
        ),
    ),
)
