"""MPEG-2. Levels: ISO/IEC 13818-2, tables 8-11 to 8-14 (Main profile)."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from ...media import VideoSettings
from ..codec import ANY_PROFILE, VideoCodec, VideoEncoder
from ..level import Level, sampled_level
from .arguments import passes, rate

FRAME_RATES = tuple(
    Fraction(*pair)
    for pair in ((24000, 1001), (24, 1), (25, 1), (30000, 1001), (30, 1), (50, 1), (60000, 1001), (60, 1))
)
"""Frame rates that the stream can say (table 6-4)."""
INDICATIONS = {10: "low", 8: "main", 6: "high1440", 4: "high"}
"""level_indication (table 8-3)."""
WRITTEN_LEVELS = {name: str(number) for number, name in INDICATIONS.items()}

# name: width, height, luma samples a second, bit/s, VBV buffer in bits
LEVELS = {
    name: replace(sampled_level(name, row[0] * row[1], row[2], row[3], (row[4], (row[0], row[1]))), of_fields=True)
    for name, row in {
        "low": (352, 288, 3_041_280, 4_000_000, 475_136),
        "main": (720, 576, 10_368_000, 15_000_000, 1_835_008),
        "high1440": (1440, 1152, 47_001_600, 60_000_000, 7_340_032),
        "high": (1920, 1152, 62_668_800, 80_000_000, 9_781_248),
    }.items()
}


def _references(level: Level, width: int, height: int) -> int:
    return 2


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    level = WRITTEN_LEVELS.get(made.level or "")
    known = ["-profile:v", "4", "-level:v", level] if level else []
    return [*known, *rate(made), "-bf", str(made.b_frames), *passes(at_pass)]


MPEG2 = VideoCodec(
    name="mpeg2video",
    label="MPEG-2",
    standard="ISO/IEC 13818-2",
    profiles={"simple": "Simple", "main": "Main", "high": "High"},
    plain_profiles=frozenset({"simple"}),
    levels={ANY_PROFILE: LEVELS},
    usual_level="high",
    references=_references,
    read_profiles={"Simple": "simple", "Main": "main", "High": "high", "4:2:2": "422"},
    read_level=INDICATIONS.get,
    source_bits=0.30,
    names_colour=True,
    played_rank=5,
    small_rank=5,
    spliced_in=frozenset({"matroska", "mpeg_ts", "mpeg_ps"}),
    encoders=(
        VideoEncoder(
            name="mpeg2video",
            presets={"medium": 200e6},
            preset=("medium",) * 5,
            bits_per_pixel=0.230,
            profiles=("main",),
            references=2,
            frame_rates=FRAME_RATES,
            field_arguments=("-flags", "+ildct+ilme"),
            arguments=_arguments,
        ),
    ),
)
