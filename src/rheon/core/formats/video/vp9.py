"""VP9. Levels: the bitstream's level table (annex A)."""

from __future__ import annotations

from ...media import VideoSettings
from ..codec import ANY_PROFILE, VideoCodec, VideoEncoder, no_level
from ..level import Level, sampled_level
from .arguments import ceiling, passes

# name: luma samples a picture and a second, kbit/s, buffer in kbit, longest side
LEVELS = {
    name: sampled_level(name, row[0], row[1], row[2] * 1000, (row[3] * 1000, (row[4], row[4])))
    for name, row in {
        "1": (36864, 829440, 200, 400, 512),
        "1.1": (73728, 2764800, 800, 1000, 768),
        "2": (122880, 4608000, 1800, 1500, 960),
        "2.1": (245760, 9216000, 3600, 2800, 1344),
        "3": (552960, 20736000, 7200, 6000, 2048),
        "3.1": (983040, 36864000, 12000, 10000, 2752),
        "4": (2228224, 83558400, 18000, 16000, 4160),
        "4.1": (2228224, 160432128, 30000, 18000, 4160),
        "5": (8912896, 311951360, 60000, 36000, 8384),
        "5.1": (8912896, 588251136, 120000, 46000, 8384),
        "5.2": (8912896, 1176502272, 180000, 90000, 8384),
        "6": (35651584, 1176502272, 180000, 90000, 16832),
        "6.1": (35651584, 2353004544, 240000, 180000, 16832),
        "6.2": (35651584, 4706009088, 480000, 360000, 16832),
    }.items()
}
WRITTEN_PROFILES = {"profile0": "0", "profile2": "2"}
QUICKEST_GOOD = 5
"""Quicker values of ``-cpu-used`` are for live encoding alone (libvpx)."""


def _references(level: Level, width: int, height: int) -> int:
    """Slots of the bitstream that a frame may use, less the ones that stay with the encoder."""
    return 3


def _arguments(made: VideoSettings, at_pass: int) -> list[str]:
    profile = WRITTEN_PROFILES.get(made.profile or "profile0", "0")
    deadline = "good" if int(made.preset) <= QUICKEST_GOOD else "realtime"
    common = ["-profile:v", profile, "-deadline", deadline, "-cpu-used", made.preset, "-row-mt", "1"]
    common += ["-tile-columns", "1", *passes(at_pass)]
    if made.quality is not None:
        # constrained quality: the value says how fine, the rate how much it may cost
        cost = str((made.peak_bps or 0) // 2)
        return [*common, "-crf", str(made.quality), "-b:v", cost, *ceiling(made)]
    return [*common, "-b:v", str(made.bitrate_bps), *ceiling(made)]


VP9 = VideoCodec(
    name="vp9",
    label="VP9",
    standard="VP9 bitstream",
    profiles={"profile0": "profile 0", "profile2": "profile 2"},
    levels={ANY_PROFILE: LEVELS},
    usual_level="6.1",
    references=_references,
    read_profiles={f"Profile {n}": f"profile{n}" for n in range(4)},
    read_level=no_level,
    names_colour=True,
    played_rank=3,
    small_rank=2,
    encoders=(
        VideoEncoder(
            name="libvpx-vp9",
            quality=(40, 36, 32, 28, 24),
            scale=(0, 63),
            halving=11,
            presets={"1": 4e6, "2": 9e6, "3": 12e6, "4": 14e6},
            preset=("4", "4", "4", "3", "2"),
            bits_per_pixel=0.065,
            profiles=("profile0",),
            ten_bit_profile="profile2",
            clip_quality=40,
            clip_preset="8",
            arguments=_arguments,
        ),
    ),
)
