"""Rates: of sizes, of qualities, inside levels."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import VideoEntry
from rheon.core.formats import (
    ENCODABLE_VIDEO,
    levels_of,
    video_encoder,
)
from rheon.core.planning import Balance
from rheon.core.planning.picture.rate_search import MOST_TRIES, RateSearch, quality_for
from rheon.core.planning.picture.rates import (
    Wanted,
    at_quality,
    bitrate_for_size,
    choose_rates,
    expected_bitrate,
    floor_share,
    under_peak,
)


@given(
    st.sampled_from(sorted(ENCODABLE_VIDEO)),
    st.integers(64, 3840),
    st.integers(64, 2160),
    st.sampled_from(list(Balance)),
)
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
    h264 = video_encoder("h264")
    assert at_quality(1000.0, h264, Balance.EVEN, 21) == 1000.0
    assert at_quality(1000.0, h264, Balance.EVEN, 27) == pytest.approx(500.0)
    assert at_quality(1000.0, h264, Balance.EVEN, 15) == pytest.approx(2000.0)


@given(st.integers(64_000, 20_000_000), st.floats(0.001, 50), st.floats(1.01, 2))
def test_a_peak_holds_a_mean_down_the_more_is_wanted_and_is_reached_where_much_more_is(
    peak_bps: int, share: float, more: float
) -> None:
    comes_out = under_peak(share * peak_bps, peak_bps)
    assert 0 < comes_out <= min(share, 1) * peak_bps * 1.0001
    assert comes_out <= under_peak(share * more * peak_bps, peak_bps) * 1.0001
    assert share > 0.5 or comes_out > 0.98 * share * peak_bps
    assert share < 3 or comes_out > 0.99 * peak_bps


@given(st.floats(10_000, 10_000_000))
def test_starved_pixels_give_way_until_each_has_enough(bps: float) -> None:
    share = floor_share("h264", 1280 * 720, Fraction(25), bps, 1.0)
    assert 0.05 <= share <= 1.0
    if 0.05 < share < 1.0:
        assert floor_share("h264", int(1280 * 720 * share), Fraction(25), bps, 1.0) == pytest.approx(1.0, abs=0.02)


@given(st.sampled_from(sorted(ENCODABLE_VIDEO)), st.integers(64, 1900), st.integers(64, 1080), st.floats(1e5, 5e7))
def test_rates_stay_inside_the_level_that_is_named(codec: str, width: int, height: int, bps: float) -> None:
    entry = VideoEntry(codec=codec, max_width=1920, max_height=1088)
    picture = Wanted(width=width, height=height, frame_rate=Fraction(25), expected_bps=bps)
    profile = video_encoder(codec).profiles[-1] if video_encoder(codec).profiles else None
    chosen = choose_rates(entry, profile, picture)
    if chosen.level is not None:
        level = levels_of(codec, profile)[chosen.level]
        assert chosen.peak_bps <= level.bitrate_bps
        assert chosen.buffer_bits <= level.buffer_bits
    assert chosen.reference_frames >= 1


@given(st.floats(50, 99), st.floats(0.2, 0.4), st.floats(1.0, 2.5), st.floats(-2, 2), st.floats(0.05, 0.95))
def test_the_quality_that_keeps_what_is_asked_for_is_found_in_five_tries(
    best: float, bend: float, power: float, apart: float, share: float
) -> None:
    def balances(quality: int) -> float:
        return best - bend * max(0, quality - 12) ** power

    def by_hand(quality: int) -> float:
        return balances(quality) + apart

    points = [(quality, balances(quality)) for quality in (17, 19, 21, 24, 27)]
    wanted = points[-1][1] + share * (points[0][1] - points[-1][1])
    quality = quality_for(wanted, points)
    assert quality is not None and 17 <= quality <= 27
    search = RateSearch(wanted=wanted, near=0.4, points=points)
    while quality not in search.tried:
        quality = search.after(quality, by_hand(quality))
    assert len(search.tried) <= MOST_TRIES
    nearest = min(range(2, 60), key=lambda one: abs(by_hand(one) - wanted))
    assert abs(by_hand(quality) - wanted) <= max(abs(by_hand(nearest) - wanted) * 1.01, 0.4)
