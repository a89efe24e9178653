"""Level arithmetic against figures that the standards publish."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise
from math import isqrt

import pytest

from rheon.core.formats import VIDEO_CODECS, Level, levels_of, most_references

H264_LEVELS, HEVC_LEVELS, VP9_LEVELS, AV1_LEVELS, MPEG2_LEVELS = (
    levels_of(codec, "main" if codec == "h264" else None) for codec in ("h264", "hevc", "vp9", "av1", "mpeg2video")
)
MPEG4_LEVELS = VIDEO_CODECS["mpeg4"].levels


# ITU-T H.264 table A-6: maximum frame rates and MaxDpbFrames for usual picture sizes
@pytest.mark.parametrize(
    ("level", "width", "height", "rate", "references"),
    [
        ("1.3", 352, 288, "30", 6),
        ("3", 720, 480, "30", 6),
        ("3", 720, 576, "25", 5),
        ("3.1", 1280, 720, "30", 5),
        ("4", 1920, 1088, "30", 4),
        ("4.2", 1920, 1088, "64", 4),
        ("5.1", 4096, 2048, "30", 5),
    ],
)
def test_h264_levels_hold_exactly_what_the_standard_s_examples_say(
    level: str, width: int, height: int, rate: str, references: int
) -> None:
    found = H264_LEVELS[level]
    assert found.holds_picture(width, height, Fraction(rate))
    assert not found.holds_picture(width, height, Fraction(rate) * Fraction(107, 100))
    assert most_references("h264", found, width, height) == references


# frame_mbs_only_flag in ITU-T H.264 table A-4; interlaced tools in ISO/IEC 14496-2 table N.1
def test_only_levels_that_have_fields_code_them() -> None:
    assert [name for name, level in H264_LEVELS.items() if level.of_fields] == [
        "2.1",
        "2.2",
        "3",
        "3.1",
        "3.2",
        "4",
        "4.1",
    ]
    assert [name for name, level in MPEG4_LEVELS["advanced_simple"].items() if level.of_fields] == ["4", "5"]
    assert not any(level.of_fields for level in MPEG4_LEVELS["simple"].values())
    assert all(level.of_fields for level in MPEG2_LEVELS.values())
    assert not any(level.of_fields for level in HEVC_LEVELS.values())


# ITU-T H.265 table A.11: maximum picture rates at usual sizes
@pytest.mark.parametrize(
    ("level", "width", "height", "rate"),
    [("3.1", 1280, 720, "33.7"), ("4", 1920, 1080, "32"), ("4.1", 1920, 1080, "64"), ("5.1", 3840, 2160, "64")],
)
def test_hevc_levels_hold_what_the_standard_s_examples_say(level: str, width: int, height: int, rate: str) -> None:
    assert HEVC_LEVELS[level].holds_picture(width, height, Fraction(rate))
    assert not HEVC_LEVELS[level].holds_picture(width, height, Fraction(rate) * Fraction(11, 10))


# VP9 level table: the example sizes and rates it names; AV1 specification A.3, the same; ISO/IEC 13818-2 table 8-11
@pytest.mark.parametrize(
    ("level", "width", "height", "rate"),
    [
        (VP9_LEVELS["3"], 854, 480, "50"),
        (VP9_LEVELS["4"], 1920, 1080, "30"),
        (VP9_LEVELS["4.1"], 1920, 1080, "60"),
        (VP9_LEVELS["5.1"], 3840, 2160, "60"),
        (AV1_LEVELS["3.1"], 1280, 720, "30"),
        (AV1_LEVELS["4.0"], 1920, 1080, "30"),
        (AV1_LEVELS["4.1"], 1920, 1080, "60"),
        (AV1_LEVELS["5.1"], 3840, 2160, "60"),
        (MPEG2_LEVELS["main"], 720, 480, "30"),
        (MPEG2_LEVELS["main"], 720, 576, "25"),
        (MPEG2_LEVELS["high"], 1920, 1088, "30"),
    ],
)
def test_levels_of_the_other_codecs_hold_what_their_tables_are_made_for(
    level: Level, width: int, height: int, rate: str
) -> None:
    assert level.holds_picture(width, height, Fraction(rate))
    assert not level.holds_picture(width, height, Fraction(rate) * Fraction(8, 5))
    assert not level.holds_picture(width * 2, height * 2, Fraction(rate))


def test_one_side_may_not_be_longer_than_the_level_allows() -> None:
    assert not H264_LEVELS["3"].holds_picture(4096, 64, Fraction(1))
    assert not HEVC_LEVELS["3"].holds_picture(4096, 64, Fraction(1))


def test_high_profile_scales_rates_by_a_quarter() -> None:
    assert levels_of("h264", "high")["4.1"].bitrate_bps == 62_500_000
    assert levels_of("h264", "main")["4.1"].bitrate_bps == 50_000_000
    assert levels_of("h264", "high")["4.1"].buffer_bits == 78_125_000


def test_small_hevc_pictures_may_refer_to_more_frames() -> None:
    level = HEVC_LEVELS["4"]
    sizes = [(1920, 1080), (1280, 720), (960, 540)]
    assert [most_references("hevc", level, *size) for size in sizes] == [5, 11, 15]


def test_levels_rise_in_every_bound() -> None:
    for table in (H264_LEVELS, HEVC_LEVELS, VP9_LEVELS, AV1_LEVELS, MPEG2_LEVELS, *MPEG4_LEVELS.values()):
        levels = list(table.values())
        for before, after in pairwise(levels):
            assert before.frame_blocks <= after.frame_blocks
            assert before.blocks_per_s <= after.blocks_per_s
            assert before.bitrate_bps <= after.bitrate_bps


EVERY_LEVEL = [
    pytest.param(level, id=f"{codec.name} {profile} {name}".replace("  ", " "))
    for codec in VIDEO_CODECS.values()
    for profile, levels in codec.levels.items()
    for name, level in levels.items()
]


@pytest.mark.parametrize("level", EVERY_LEVEL)
def test_every_level_ends_at_its_bounds_and_not_before(level: Level) -> None:
    slow = Fraction(1, 1000)
    wide, high = level.sides or (level.block * isqrt(8 * level.frame_blocks),) * 2
    # the largest picture, one block larger, and the longest sides, one pixel longer
    rows = min(isqrt(level.frame_blocks), high // level.block)
    columns = min(level.frame_blocks // rows, wide // level.block)
    size = (columns * level.block, rows * level.block)
    assert level.holds_picture(*size, slow)
    if (columns + 1) * level.block <= wide:
        assert not level.holds_picture(size[0] + 1, size[1], slow)
    assert level.holds_picture(wide, level.block, slow) and level.holds_picture(level.block, high, slow)
    assert not level.holds_picture(wide + 1, level.block, slow)
    assert not level.holds_picture(level.block, high + 1, slow)
    # and the quickest
    blocks = level.blocks(*size)
    assert level.holds_picture(*size, Fraction(level.blocks_per_s, blocks))
    assert not level.holds_picture(*size, Fraction(level.blocks_per_s + 1, blocks))


# entered a second time from the standards, so that a slip of one digit in the registry is noticed
H264_TABLE_A_1 = """
1 1485 99 396 64 175
1b 1485 99 396 128 350
1.1 3000 396 900 192 500
1.2 6000 396 2376 384 1000
1.3 11880 396 2376 768 2000
2 11880 396 2376 2000 2000
2.1 19800 792 4752 4000 4000
2.2 20250 1620 8100 4000 4000
3 40500 1620 8100 10000 10000
3.1 108000 3600 18000 14000 14000
3.2 216000 5120 20480 20000 20000
4 245760 8192 32768 20000 25000
4.1 245760 8192 32768 50000 62500
4.2 522240 8704 34816 50000 62500
5 589824 22080 110400 135000 135000
5.1 983040 36864 184320 240000 240000
5.2 2073600 36864 184320 240000 240000
6 4177920 139264 696320 240000 240000
6.1 8355840 139264 696320 480000 480000
6.2 16711680 139264 696320 800000 800000
"""
H265_TABLES_A_8_AND_A_9 = """
1 552960 36864 0 128 350
2 3686400 122880 0 1500 1500
2.1 7372800 245760 0 3000 3000
3 16588800 552960 0 6000 6000
3.1 33177600 983040 0 10000 10000
4 66846720 2228224 0 12000 12000
4.1 133693440 2228224 0 20000 20000
5 267386880 8912896 0 25000 25000
5.1 534773760 8912896 0 40000 40000
5.2 1069547520 8912896 0 60000 60000
6 1069547520 35651584 0 60000 60000
6.1 2139095040 35651584 0 120000 120000
6.2 4278190080 35651584 0 240000 240000
"""


@pytest.mark.parametrize(("table", "printed"), [(H264_LEVELS, H264_TABLE_A_1), (HEVC_LEVELS, H265_TABLES_A_8_AND_A_9)])
def test_levels_are_the_standard_s_table_to_the_last_digit(table: dict[str, Level], printed: str) -> None:
    entered = [line.split() for line in printed.strip().splitlines()]
    assert [
        [
            name, str(level.blocks_per_s), str(level.frame_blocks), str(level.buffer_blocks),
            str(level.bitrate_bps // 1000), str(level.buffer_bits // 1000),
        ]
        for name, level in table.items()
    ] == entered  # fmt: skip


# samples (or macroblocks) a second and a picture, kbit/s, buffer in kbit, largest sides
VP9_LEVEL_TABLE = """
1 829440 36864 200 400 512 512
1.1 2764800 73728 800 1000 768 768
2 4608000 122880 1800 1500 960 960
2.1 9216000 245760 3600 2800 1344 1344
3 20736000 552960 7200 6000 2048 2048
3.1 36864000 983040 12000 10000 2752 2752
4 83558400 2228224 18000 16000 4160 4160
4.1 160432128 2228224 30000 18000 4160 4160
5 311951360 8912896 60000 36000 8384 8384
5.1 588251136 8912896 120000 46000 8384 8384
5.2 1176502272 8912896 180000 90000 8384 8384
6 1176502272 35651584 180000 90000 16832 16832
6.1 2353004544 35651584 240000 180000 16832 16832
6.2 4706009088 35651584 480000 360000 16832 16832
"""
AV1_ANNEX_A_3 = """
2.0 4423680 147456 1500 1500 2048 1152
2.1 8363520 278784 3000 3000 2816 1584
3.0 19975680 665856 6000 6000 4352 2448
3.1 31950720 1065024 10000 10000 5504 3096
4.0 70778880 2359296 12000 12000 6144 3456
4.1 141557760 2359296 20000 20000 6144 3456
5.0 267386880 8912896 30000 30000 8192 4352
5.1 534773760 8912896 40000 40000 8192 4352
5.2 1069547520 8912896 60000 60000 8192 4352
5.3 1069547520 8912896 60000 60000 8192 4352
6.0 1069547520 35651584 60000 60000 16384 8704
6.1 2139095040 35651584 100000 100000 16384 8704
6.2 4278190080 35651584 160000 160000 16384 8704
6.3 4278190080 35651584 160000 160000 16384 8704
"""
MPEG2_TABLES_8_11_TO_8_14 = """
low 3041280 101376 4000 475.136 352 288
main 10368000 414720 15000 1835.008 720 576
high1440 47001600 1658880 60000 7340.032 1440 1152
high 62668800 2211840 80000 9781.248 1920 1152
"""
MPEG4_SIMPLE_TABLE_N_1 = """
1 1485 99 64 163.84 None
2 5940 396 128 655.36 None
3 11880 396 384 655.36 None
4a 36000 1200 4000 1310.72 None
5 40500 1620 8000 1835.008 None
6 108000 3600 12000 4063.232 None
"""
MPEG4_ADVANCED_SIMPLE_TABLE_N_1 = """
1 2970 99 128 163.84 None
2 5940 396 384 655.36 None
3 11880 396 768 655.36 None
4 23760 792 3000 1310.72 None
5 48600 1620 8000 1835.008 None
"""


@pytest.mark.parametrize(
    ("table", "printed"),
    [
        pytest.param(VP9_LEVELS, VP9_LEVEL_TABLE, id="vp9"),
        pytest.param(AV1_LEVELS, AV1_ANNEX_A_3, id="av1"),
        pytest.param(MPEG2_LEVELS, MPEG2_TABLES_8_11_TO_8_14, id="mpeg2"),
        pytest.param(MPEG4_LEVELS["simple"], MPEG4_SIMPLE_TABLE_N_1, id="mpeg4 simple"),
        pytest.param(MPEG4_LEVELS["advanced_simple"], MPEG4_ADVANCED_SIMPLE_TABLE_N_1, id="mpeg4 advanced simple"),
    ],
)
def test_levels_of_the_other_codecs_are_their_tables_to_the_last_digit(table: dict[str, Level], printed: str) -> None:
    assert [
        [
            name, str(level.blocks_per_s), str(level.frame_blocks), str(level.bitrate_bps // 1000),
            f"{level.buffer_bits / 1000:.3f}".rstrip("0").rstrip("."),
            *(map(str, level.sides) if level.sides else ["None"]),
        ]
        for name, level in table.items()
    ] == [line.split() for line in printed.strip().splitlines()]  # fmt: skip
