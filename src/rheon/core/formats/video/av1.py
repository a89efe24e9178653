"""AV1. Levels: the bitstream specification, annex A.3 (Main tier)."""

from __future__ import annotations

from ...media import VideoSettings
from ..codec import ANY_PROFILE, VideoCodec, VideoEncoder
from ..level import Level, sampled_level
from .arguments import primaries_and_light

# name: MaxPicSize, MaxHSize, MaxVSize, MaxDisplayRate, MainMbps x 10; the buffer holds one second (annex E)
LEVELS = {
    name: sampled_level(name, row[0], row[3], row[4] * 100_000, (row[4] * 100_000, (row[1], row[2])))
    for name, row in {
        "2.0": (147456, 2048, 1152, 4423680, 15),
        "2.1": (278784, 2816, 1584, 8363520, 30),
        "3.0": (665856, 4352, 2448, 19975680, 60),
        "3.1": (1065024, 5504, 3096, 31950720, 100),
        "4.0": (2359296, 6144, 3456, 70778880, 120),
        "4.1": (2359296, 6144, 3456, 141557760, 200),
        "5.0": (8912896, 8192, 4352, 267386880, 300),
        "5.1": (8912896, 8192, 4352, 534773760, 400),
        "5.2": (8912896, 8192, 4352, 1069547520, 600),
        "5.3": (8912896, 8192, 4352, 1069547520, 600),
        "6.0": (35651584, 16384, 8704, 1069547520, 600),
        "6.1": (35651584, 16384, 8704, 2139095040, 1000),
        "6.2": (35651584, 16384, 8704, 4278190080, 1600),
        "6.3": (35651584, 16384, 8704, 4278190080, 1600),
    }.items()
}


def _references(level: Level, width: int, height: int) -> int:
    """Slots of the bitstream that a frame may use."""
    return 7


def _read_level(indication: int) -> str | None:
    """seq_level_idx counts up in fours from level 2.0 (annex A.3)."""
    return f"{2 + indication // 4}.{indication % 4}" if indication < 24 else None


def _mastered(made: VideoSettings) -> list[str]:
    """How the light was mastered, as metadata units (5.8.3, 5.8.4), in the encoder's own unit of one."""
    told = made.colour.mastering if made.colour else None
    said: list[str] = []
    if told and told.display:
        numbers = [*(one / 50_000 for one in told.display[:8]), *(one / 10_000 for one in told.display[8:])]
        said.append(f"mastering-display={primaries_and_light([f'{one:.5f}' for one in numbers])}")
    if told and told.content:
        said.append(f"content-light={told.content[0]},{told.content[1]}")
    return said


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    further = _mastered(made)
    if made.quality is not None:
        # the encoder bounds the mean of its window; half the peak leaves room for what is above it
        further = [f"mbr={max(1, (made.peak_bps or 0) // 2000)}", *further]
        aim = ["-crf", str(made.quality)]
    else:
        aim = ["-b:v", str(made.bitrate_bps)]
    return ["-preset", made.preset, *aim, *(["-svtav1-params", ":".join(further)] if further else ())]


AV1 = VideoCodec(
    name="av1",
    label="AV1",
    standard="AV1 bitstream",
    profiles={"main": "Main", "high": "High"},
    levels={ANY_PROFILE: LEVELS},
    usual_level="6.1",
    references=_references,
    read_profiles={"Main": "main", "High": "high", "Professional": "professional"},
    read_level=_read_level,
    names_colour=True,
    played_rank=4,
    small_rank=1,
    encoders=(
        VideoEncoder(
            name="libsvtav1",
            quality=(45, 40, 35, 30, 26),
            scale=(1, 63),
            halving=11,
            presets={"6": 8e6, "8": 19e6, "9": 30e6, "10": 38e6, "12": 80e6},
            preset=("12", "10", "10", "9", "8"),
            bits_per_pixel=0.055,
            profiles=("main",),
            ten_bit_profile="main",
            two_passes=False,
            clip_quality=45,
            clip_preset="12",
            arguments=_arguments,
        ),
    ),
)
