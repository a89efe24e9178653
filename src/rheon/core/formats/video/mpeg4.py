"""MPEG-4 part 2. Levels: ISO/IEC 14496-2:2004, table N.1 (Simple and Advanced Simple)."""

from __future__ import annotations

from dataclasses import replace

from ...media import VideoSettings
from ..codec import VideoCodec, VideoEncoder
from ..level import Level
from .arguments import optional, passes, rate

WRITTEN_PROFILES = {"simple": "0", "advanced_simple": "15"}


def _level(name: str, row: tuple[int, int, int, int]) -> Level:
    frame, per_second, rate_kbps, buffer_units = row
    return Level(
        name=name,
        block=16,
        frame_blocks=frame,
        blocks_per_s=per_second,
        buffer_blocks=0,
        bitrate_bps=rate_kbps * 1000,
        buffer_bits=buffer_units * 16384,
    )


def _of_fields(level: Level) -> Level:
    """Advanced Simple has fields from level 4 on (table N.1)."""
    return replace(level, of_fields=int(level.name) >= 4)


# profile and level: macroblocks a picture and a second, kbit/s, VBV buffer in units of 16384 bits
LEVELS: dict[str, dict[str, Level]] = {
    "simple": {
        name: _level(name, row)
        for name, row in {
            "1": (99, 1485, 64, 10),
            "2": (396, 5940, 128, 40),
            "3": (396, 11880, 384, 40),
            "4a": (1200, 36000, 4000, 80),
            "5": (1620, 40500, 8000, 112),
            "6": (3600, 108000, 12000, 248),
        }.items()
    },
    "advanced_simple": {
        name: _of_fields(_level(name, row))
        for name, row in {
            "1": (99, 2970, 128, 10),
            "2": (396, 5940, 384, 40),
            "3": (396, 11880, 768, 40),
            "4": (792, 23760, 3000, 80),
            "5": (1620, 48600, 8000, 112),
        }.items()
    },
}


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    return [
        *optional("-profile:v", WRITTEN_PROFILES.get(made.profile or "")),
        *optional("-level", made.level[0] if made.level else None),
        *rate(made), "-bf", "0", *passes(at_pass),
    ]  # fmt: skip


MPEG4 = VideoCodec(
    name="mpeg4",
    label="MPEG-4 part 2",
    standard="ISO/IEC 14496-2",
    profiles={"simple": "Simple", "advanced_simple": "Advanced Simple"},
    plain_profiles=frozenset({"simple"}),
    levels=LEVELS,
    usual_level="5",
    read_profiles={"Simple Profile": "simple", "Advanced Simple Profile": "advanced_simple"},
    played_rank=2,
    small_rank=4,
    encoders=(
        VideoEncoder(
            name="mpeg4",
            presets={"medium": 200e6},
            preset=("medium",) * 5,
            bits_per_pixel=0.155,
            profiles=("simple", "advanced_simple"),
            references=1,
            b_frames=0,
            field_arguments=("-flags", "+ildct+ilme"),
            arguments=_arguments,
        ),
    ),
)
