"""H.264. Levels: ITU-T H.264 (08/2021), tables A-1, A-2 and A-4."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from ...media import VideoSettings
from ..codec import ANY_PROFILE, VideoCodec, VideoEncoder
from ..level import Level
from .arguments import optional, passes, rate

# name: MaxMBPS, MaxFS, MaxDpbMbs, MaxBR, MaxCPB (units of 1000 bits, for Baseline and Main)
ROWS = {
    "1": (1485, 99, 396, 64, 175),
    "1b": (1485, 99, 396, 128, 350),
    "1.1": (3000, 396, 900, 192, 500),
    "1.2": (6000, 396, 2376, 384, 1000),
    "1.3": (11880, 396, 2376, 768, 2000),
    "2": (11880, 396, 2376, 2000, 2000),
    "2.1": (19800, 792, 4752, 4000, 4000),
    "2.2": (20250, 1620, 8100, 4000, 4000),
    "3": (40500, 1620, 8100, 10000, 10000),
    "3.1": (108000, 3600, 18000, 14000, 14000),
    "3.2": (216000, 5120, 20480, 20000, 20000),
    "4": (245760, 8192, 32768, 20000, 25000),
    "4.1": (245760, 8192, 32768, 50000, 62500),
    "4.2": (522240, 8704, 34816, 50000, 62500),
    "5": (589824, 22080, 110400, 135000, 135000),
    "5.1": (983040, 36864, 184320, 240000, 240000),
    "5.2": (2073600, 36864, 184320, 240000, 240000),
    "6": (4177920, 139264, 696320, 240000, 240000),
    "6.1": (8355840, 139264, 696320, 480000, 480000),
    "6.2": (16711680, 139264, 696320, 800000, 800000),
}
HIGH_RATE_FACTOR = Fraction(5, 4)  # cpbBrVclFactor 1250 against 1000, table A-2
MOST_REFERENCES = 16
OF_FIELDS = frozenset({"2.1", "2.2", "3", "3.1", "3.2", "4", "4.1"})
"""Levels without frame_mbs_only_flag (table A-4)."""


def _level(name: str, row: tuple[int, int, int, int, int]) -> Level:
    per_second, frame, dpb, rate_kbps, buffer_kbits = row
    return Level(
        name=name,
        block=16,
        frame_blocks=frame,
        blocks_per_s=per_second,
        buffer_blocks=dpb,
        bitrate_bps=rate_kbps * 1000,
        buffer_bits=buffer_kbits * 1000,
        of_fields=name in OF_FIELDS,
    )


def _scaled(level: Level) -> Level:
    return replace(
        level,
        bitrate_bps=int(level.bitrate_bps * HIGH_RATE_FACTOR),
        buffer_bits=int(level.buffer_bits * HIGH_RATE_FACTOR),
    )


LEVELS = {name: _level(name, row) for name, row in ROWS.items()}
HIGH_LEVELS = {name: _scaled(level) for name, level in LEVELS.items()}


def _references(level: Level, width: int, height: int) -> int:
    return min(MOST_REFERENCES, level.buffer_blocks // level.blocks(width, height))


def _read_level(indication: int) -> str:
    """level_idc is ten times the level; 9 is level 1b (table A-1)."""
    if indication == 9:
        return "1b"
    return f"{indication // 10}.{indication % 10}" if indication % 10 else str(indication // 10)


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    return [
        "-preset", made.preset, *optional("-profile:v", made.profile), *optional("-level", made.level),
        *rate(made), "-refs", str(made.reference_frames), "-bf", str(made.b_frames), "-b-pyramid", "none",
        *passes(at_pass),
    ]  # fmt: skip


H264 = VideoCodec(
    name="h264",
    label="H.264",
    standard="ITU-T H.264",
    profiles={"baseline": "Baseline", "main": "Main", "high": "High", "high10": "High 10"},
    plain_profiles=frozenset({"baseline"}),
    levels={ANY_PROFILE: LEVELS, "high": HIGH_LEVELS, "high10": HIGH_LEVELS},
    usual_level="5.1",
    references=_references,
    read_profiles={
        "Constrained Baseline": "baseline",
        "Baseline": "baseline",
        "Main": "main",
        "High": "high",
        "High 10": "high10",
        "Extended": "extended",
    },
    read_level=_read_level,
    source_bits=0.085,
    names_colour=True,
    played_rank=0,
    small_rank=3,
    spliced_in=frozenset({"mp4", "matroska", "mpeg_ts"}),
    encoders=(
        VideoEncoder(
            name="libx264",
            quality=(27, 24, 21, 19, 17),
            presets={
                "slower": 18e6,
                "slow": 45e6,
                "medium": 85e6,
                "fast": 105e6,
                "veryfast": 150e6,
                "superfast": 210e6,
            },
            preset=("veryfast", "fast", "medium", "medium", "slow"),
            bits_per_pixel=0.085,
            plain_share=1.2,
            profiles=("baseline", "main", "high"),
            clip_quality=26,
            clip_preset="veryfast",
            field_arguments=("-flags", "+ildct"),
            arguments=_arguments,
        ),
    ),
)
