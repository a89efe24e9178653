"""Levels: what a profile and level of a codec allow.

Sources: ITU-T H.264 (08/2021) tables A-1 and A-2; ITU-T H.265 (08/2021) tables A.8 and A.9, Main tier;
ISO/IEC 14496-2:2004 table N.1 (Simple and Advanced Simple); ISO/IEC 13818-2 tables 8-11 to 8-14 (Main profile);
the VP9 bitstream's level table (annex A); the AV1 bitstream specification, annex A.3 (Main tier).
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import isqrt


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """Limits of a level in the codec's own blocks: blocks a picture and a second, picture buffer, rates in bits.

    ``block`` is the side of a block in pixels (16 for macroblocks, 1 where the standard counts samples);
    ``buffer_blocks`` bounds the decoded picture buffer, ``0`` where the standard bounds no reference frames. ``sides``
    are the largest width and height in pixels where the standard names them; else the longest side follows from the
    picture (H.264 A.3.1, H.265 A.4.1).
    """

    name: str
    block: int
    frame_blocks: int
    blocks_per_s: int
    buffer_blocks: int
    bitrate_bps: int
    buffer_bits: int
    sides: tuple[int, int] | None = None

    def blocks(self, width: int, height: int) -> int:
        return -(-width // self.block) * -(-height // self.block)

    def holds_picture(self, width: int, height: int, frame_rate: Fraction) -> bool:
        """Whether a picture of this size at this rate stays inside, the bound on one side included."""
        blocks = self.blocks(width, height)
        return (
            blocks <= self.frame_blocks and self._sides_fit(width, height) and blocks * frame_rate <= self.blocks_per_s
        )

    def _sides_fit(self, width: int, height: int) -> bool:
        if self.sides is not None:
            return width <= self.sides[0] and height <= self.sides[1]
        return max(-(-width // self.block), -(-height // self.block)) <= isqrt(8 * self.frame_blocks)


def _avc(name: str, row: tuple[int, int, int, int, int]) -> Level:
    per_second, frame, dpb, rate_kbps, buffer_kbits = row
    return Level(
        name=name,
        block=16,
        frame_blocks=frame,
        blocks_per_s=per_second,
        buffer_blocks=dpb,
        bitrate_bps=rate_kbps * 1000,
        buffer_bits=buffer_kbits * 1000,
    )


# name: MaxMBPS, MaxFS, MaxDpbMbs, MaxBR, MaxCPB (units of 1000 bits, for Baseline and Main)
H264_LEVELS: dict[str, Level] = {
    name: _avc(name, row)
    for name, row in {
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
    }.items()
}
HIGH_RATE_FACTOR = Fraction(5, 4)  # cpbBrVclFactor 1250 against 1000, table A-2
H264_MOST_REFERENCES = 16
# reference slots of the bitstream that a frame may use, less the ones that stay with the encoder
OTHER_REFERENCES = {"vp9": 3, "av1": 7, "mpeg2video": 2}

# name: MaxLumaPs, MaxLumaSr, MaxBR, MaxCPB (units of 1000 bits, Main tier)
HEVC_LEVELS: dict[str, Level] = {
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


def _part2(name: str, row: tuple[int, int, int, int]) -> Level:
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


# profile and level: macroblocks a picture and a second, kbit/s, VBV buffer in units of 16384 bits
MPEG4_LEVELS: dict[str, dict[str, Level]] = {
    "simple": {
        name: _part2(name, row)
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
        name: _part2(name, row)
        for name, row in {
            "1": (99, 2970, 128, 10),
            "2": (396, 5940, 384, 40),
            "3": (396, 11880, 768, 40),
            "4": (792, 23760, 3000, 80),
            "5": (1620, 48600, 8000, 112),
        }.items()
    },
}


def _sampled(name: str, frame: int, per_second: int, rate_bps: int, rest: tuple[int, tuple[int, int]]) -> Level:
    buffer_bits, sides = rest
    return Level(
        name=name,
        block=1,
        frame_blocks=frame,
        blocks_per_s=per_second,
        buffer_blocks=0,
        bitrate_bps=rate_bps,
        buffer_bits=buffer_bits,
        sides=sides,
    )


# name: width, height, luma samples a second, bit/s, VBV buffer in bits
MPEG2_LEVELS: dict[str, Level] = {
    name: _sampled(name, row[0] * row[1], row[2], row[3], (row[4], (row[0], row[1])))
    for name, row in {
        "low": (352, 288, 3_041_280, 4_000_000, 475_136),
        "main": (720, 576, 10_368_000, 15_000_000, 1_835_008),
        "high1440": (1440, 1152, 47_001_600, 60_000_000, 7_340_032),
        "high": (1920, 1152, 62_668_800, 80_000_000, 9_781_248),
    }.items()
}

# name: luma samples a picture and a second, kbit/s, buffer in kbit, longest side
VP9_LEVELS: dict[str, Level] = {
    name: _sampled(name, row[0], row[1], row[2] * 1000, (row[3] * 1000, (row[4], row[4])))
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

# name: MaxPicSize, MaxHSize, MaxVSize, MaxDisplayRate, MainMbps x 10; the buffer holds one second (annex E)
AV1_LEVELS: dict[str, Level] = {
    name: _sampled(name, row[0], row[3], row[4] * 100_000, (row[4] * 100_000, (row[1], row[2])))
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

PROFILE_ORDER: dict[str, tuple[str, ...]] = {
    "h264": ("baseline", "main", "high", "high10"),
    "hevc": ("main", "main10"),
    "mpeg4": ("simple", "advanced_simple"),
    "mpeg2video": ("simple", "main", "high"),
    "vp9": ("profile0", "profile2"),
    "av1": ("main", "high"),
    "aac": ("lc", "he", "he2"),
}


def levels_of(codec: str, profile: str | None) -> dict[str, Level]:
    """The levels of a codec in rising order, with rates as the profile scales them; empty where it has none."""
    if codec == "h264":
        return _HIGH_LEVELS if profile in ("high", "high10") else H264_LEVELS
    if codec == "hevc":
        return HEVC_LEVELS
    if codec == "mpeg4":
        return MPEG4_LEVELS.get(profile or "simple", {})
    return _PLAIN_LEVELS.get(codec, {})


def level_rank(codec: str, profile: str | None, level: str) -> int:
    """Where a level stands among its codec's, from 0; -1 for one that is not known."""
    names = list(levels_of(codec, profile))
    return names.index(level) if level in names else -1


def most_references(codec: str, level: Level, width: int, height: int) -> int:
    """How many reference frames the decoded picture buffer holds at this picture size."""
    if codec == "h264":
        return min(H264_MOST_REFERENCES, level.buffer_blocks // level.blocks(width, height))
    if codec == "hevc":
        return _hevc_pictures(width * height, level.frame_blocks) - 1
    return OTHER_REFERENCES.get(codec, 1)


def _hevc_pictures(samples: int, most: int) -> int:
    """MaxDpbSize by H.265 equation A-2, with maxDpbPicBuf 6; one of them is the picture being decoded."""
    if samples <= most >> 2:
        return 16
    if samples <= most >> 1:
        return 12
    return 8 if samples <= 3 * most >> 2 else 6


def _scaled(level: Level) -> Level:
    return Level(
        name=level.name,
        block=level.block,
        frame_blocks=level.frame_blocks,
        blocks_per_s=level.blocks_per_s,
        buffer_blocks=level.buffer_blocks,
        bitrate_bps=int(level.bitrate_bps * HIGH_RATE_FACTOR),
        buffer_bits=int(level.buffer_bits * HIGH_RATE_FACTOR),
    )


_PLAIN_LEVELS = {"mpeg2video": MPEG2_LEVELS, "vp9": VP9_LEVELS, "av1": AV1_LEVELS}
_HIGH_LEVELS = {name: _scaled(level) for name, level in H264_LEVELS.items()}
