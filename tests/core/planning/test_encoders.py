"""The table of encoders agrees with levels, containers and verdicts."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import ENCODABLE_AUDIO, ENCODABLE_VIDEO, VideoEntry
from rheon.core.devices.levels import PROFILE_ORDER, levels_of
from rheon.core.encoding.encoders import NAMES
from rheon.core.media.codecs import CODEC_NAMES
from rheon.core.media.containers import CONTAINERS
from rheon.core.planning import Balance
from rheon.core.planning.encoders import ENCODERS, PLAYED_MOST, SMALLEST_FIRST, Encoder
from rheon.core.planning.rates import (
    Wanted,
    at_quality,
    bitrate_for_size,
    choose_rates,
    expected_bitrate,
    floor_share,
)
from rheon.core.planning.sounds import ENCODER_RATES, PREFERRED, STEREO_BPS


def test_every_codec_has_one_row_a_name_and_a_place_in_each_order() -> None:
    assert set(ENCODERS) == ENCODABLE_VIDEO == set(PLAYED_MOST) == set(SMALLEST_FIRST)
    assert ENCODABLE_AUDIO == set(PREFERRED) == set(STEREO_BPS) == set(ENCODER_RATES)
    assert set(NAMES) & set(CODEC_NAMES) >= ENCODABLE_AUDIO | ENCODABLE_VIDEO
    for codec in ENCODABLE_VIDEO:
        assert any(codec in container.video for container in CONTAINERS.values()), codec


@pytest.mark.parametrize("encoder", ENCODERS.values(), ids=lambda encoder: encoder.codec)
def test_a_row_is_sound(encoder: Encoder) -> None:
    assert len(encoder.effort) == len(Balance)
    assert set(encoder.effort) <= set(encoder.efforts)
    speeds = list(encoder.efforts.values())
    assert speeds == sorted(speeds), "from slow to quick"
    if encoder.quality:
        finest, coarsest = encoder.scale
        assert all(finest <= value <= coarsest for value in encoder.quality)
        assert all(before > after for before, after in pairwise(encoder.quality)), "finer with each balance"
    for profile in encoder.profiles:
        assert profile in PROFILE_ORDER[encoder.codec]
        assert levels_of(encoder.codec, profile)


@given(st.sampled_from(sorted(ENCODERS)), st.integers(64, 3840), st.integers(64, 2160), st.sampled_from(list(Balance)))
def test_a_larger_picture_needs_more_bits_and_fewer_for_each_pixel(
    codec: str, width: int, height: int, balance: Balance
) -> None:
    small, large = width * height, 2 * width * height
    less, more = (expected_bitrate(codec, pixels, Fraction(25), balance, 1.0) for pixels in (small, large))
    assert less < more < 2 * less


@given(st.integers(1, 50_000), st.floats(60, 20_000), st.integers(0, 700_000))
def test_a_target_size_is_filled_and_not_overrun(megabytes: int, duration_s: float, sound_bps: int) -> None:
    video = bitrate_for_size(megabytes * 1e6, duration_s, sound_bps)
    total = (video + sound_bps) * duration_s / 8
    assert total <= megabytes * 1e6 or video == 32_000


def test_a_step_on_the_scale_moves_the_rate_as_the_encoder_s_scale_does() -> None:
    h264 = ENCODERS["h264"]
    assert at_quality(1000.0, h264, Balance.EVEN, 21) == 1000.0
    assert at_quality(1000.0, h264, Balance.EVEN, 27) == pytest.approx(500.0)
    assert at_quality(1000.0, h264, Balance.EVEN, 15) == pytest.approx(2000.0)


@given(st.floats(10_000, 10_000_000))
def test_starved_pixels_give_way_until_each_has_enough(bps: float) -> None:
    share = floor_share("h264", 1280 * 720, Fraction(25), bps, 1.0)
    assert 0.05 <= share <= 1.0
    if 0.05 < share < 1.0:
        assert floor_share("h264", int(1280 * 720 * share), Fraction(25), bps, 1.0) == pytest.approx(1.0, abs=0.02)


@given(st.sampled_from(sorted(ENCODERS)), st.integers(64, 1900), st.integers(64, 1080), st.floats(1e5, 5e7))
def test_rates_stay_inside_the_level_that_is_named(codec: str, width: int, height: int, bps: float) -> None:
    entry = VideoEntry(codec=codec, max_width=1920, max_height=1088)
    picture = Wanted(width=width, height=height, frame_rate=Fraction(25), expected_bps=bps)
    profile = ENCODERS[codec].profiles[-1] if ENCODERS[codec].profiles else None
    chosen = choose_rates(entry, profile, picture)
    if chosen.level is not None:
        level = levels_of(codec, profile)[chosen.level]
        assert chosen.peak_bps <= level.bitrate_bps
        assert chosen.buffer_bits <= level.buffer_bits
    assert chosen.reference_frames >= 1
