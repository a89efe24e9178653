"""HEVC. Levels: ITU-T H.265 (08/2021), tables A.8 and A.9, Main tier."""

from __future__ import annotations

from ...media import VideoSettings
from ..codec import ANY_PROFILE, VideoCodec, VideoEncoder
from ..level import Level
from .arguments import PASS_LOG, optional, primaries_and_light

# name: MaxLumaPs, MaxLumaSr, MaxBR, MaxCPB (units of 1000 bits, Main tier)
LEVELS = {
    name: Level(
        name=name,
        block=1,
        frame_blocks=row[0],
        blocks_per_s=row[1],
        buffer_blocks=0,
        bitrate_bps=row[2] * 1000,
        buffer_bits=row[3] * 1000,
    )
    for name, row in {
        "1": (36864, 552960, 128, 350),
        "2": (122880, 3686400, 1500, 1500),
        "2.1": (245760, 7372800, 3000, 3000),
        "3": (552960, 16588800, 6000, 6000),
        "3.1": (983040, 33177600, 10000, 10000),
        "4": (2228224, 66846720, 12000, 12000),
        "4.1": (2228224, 133693440, 20000, 20000),
        "5": (8912896, 267386880, 25000, 25000),
        "5.1": (8912896, 534773760, 40000, 40000),
        "5.2": (8912896, 1069547520, 60000, 60000),
        "6": (35651584, 1069547520, 60000, 60000),
        "6.1": (35651584, 2139095040, 120000, 120000),
        "6.2": (35651584, 4278190080, 240000, 240000),
    }.items()
}


def _references(level: Level, width: int, height: int) -> int:
    """MaxDpbSize by equation A-2, with maxDpbPicBuf 6; one of them is the picture being decoded."""
    samples, most = width * height, level.frame_blocks
    if samples <= most >> 2:
        pictures = 16
    elif samples <= most >> 1:
        pictures = 12
    else:
        pictures = 8 if samples <= 3 * most >> 2 else 6
    return pictures - 1


def _read_level(indication: int) -> str:
    """general_level_idc is thirty times the level (A.4.1)."""
    return f"{indication // 30}.{indication % 30 // 3}" if indication % 30 else str(indication // 30)


def _mastered(made: VideoSettings) -> dict[str, object]:
    """How the light was mastered, as SEI messages (D.3.28, D.3.35)."""
    told = made.colour.mastering if made.colour else None
    said: dict[str, object] = {}
    if told and told.display:
        said["master-display"] = primaries_and_light(told.display)
    if told and told.content:
        said["max-cll"] = f"{told.content[0]},{told.content[1]}"
    return said


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    values: dict[str, object] = {
        "log-level": "error",
        "level-idc": made.level,
        "high-tier": "0",
        "vbv-maxrate": (made.peak_bps or 0) // 1000,
        "vbv-bufsize": (made.buffer_bits or 0) // 1000,
        "ref": made.reference_frames,
        "bframes": made.b_frames,
        "b-pyramid": "0",
        **_mastered(made),
        **({"pass": at_pass, "stats": f"{PASS_LOG}.log"} if at_pass else {}),
    }
    pairs = ":".join(f"{key}={value}" for key, value in values.items() if value is not None)
    aim = ["-crf", str(made.quality)] if made.quality is not None else ["-b:v", str(made.bitrate_bps)]
    return ["-preset", made.preset, *optional("-profile:v", made.profile), *aim, "-x265-params", pairs]


HEVC = VideoCodec(
    name="hevc",
    label="HEVC",
    standard="ITU-T H.265",
    profiles={"main": "Main", "main10": "Main 10"},
    levels={ANY_PROFILE: LEVELS},
    usual_level="5.1",
    references=_references,
    read_profiles={"Main": "main", "Main 10": "main10", "Main Still Picture": "main"},
    read_level=_read_level,
    source_bits=0.06,
    names_colour=True,
    played_rank=1,
    small_rank=0,
    encoders=(
        VideoEncoder(
            name="libx265",
            quality=(30, 27, 24, 22, 20),
            presets={"slow": 5e6, "medium": 14e6, "fast": 22e6, "superfast": 45e6, "ultrafast": 60e6},
            preset=("ultrafast", "superfast", "fast", "fast", "medium"),
            bits_per_pixel=0.060,
            profiles=("main",),
            ten_bit_profile="main10",
            clip_quality=28,
            clip_preset="ultrafast",
            arguments=_arguments,
        ),
    ),
)
