"""Level arithmetic against figures that the standards publish."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

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
