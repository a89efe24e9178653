"""The table of encoders agrees with levels, containers and verdicts."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import VideoEntry
from rheon.core.formats import (
    AUDIO_CODECS,
    CONTAINERS,
    ENCODABLE_AUDIO,
    ENCODABLE_VIDEO,
    PLAYED_MOST,
    SMALLEST_FIRST,
    SOUND_PREFERRED,
    SUBTITLE_FORMATS,
    VIDEO_CODECS,
    VideoCodec,
    levels_of,
    video_encoder,
)
from rheon.core.planning import Balance
from rheon.core.planning.picture.rates import (
    Wanted,
    at_quality,
    bitrate_for_size,
    choose_rates,
    expected_bitrate,
    floor_share,
)

MADE = [codec for codec in VIDEO_CODECS.values() if codec.encoders]


def test_every_codec_that_is_made_has_a_rank_of_its_own_and_a_container() -> None:
    for codecs in (PLAYED_MOST, SMALLEST_FIRST):
        assert set(codecs) == ENCODABLE_VIDEO
    for rank in ("played_rank", "small_rank"):
        assert sorted(getattr(codec, rank) for codec in MADE) == list(range(len(MADE)))
    assert set(SOUND_PREFERRED) == ENCODABLE_AUDIO
    assert sorted(AUDIO_CODECS[name].rank for name in ENCODABLE_AUDIO) == list(range(len(ENCODABLE_AUDIO)))
    for codec in ENCODABLE_VIDEO:
        assert any(codec in container.video for container in CONTAINERS.values()), codec


def test_containers_hold_only_what_the_registries_know() -> None:
    for container in CONTAINERS.values():
        assert container.video <= set(VIDEO_CODECS)
        assert container.audio <= set(AUDIO_CODECS)
        assert container.pictures <= set(SUBTITLE_FORMATS)
        assert set(container.tags) <= container.video | container.audio
        if container.text:
            assert SUBTITLE_FORMATS[container.text].encoder


def test_samples_are_kept_under_a_name_of_as_many_bits() -> None:
    for codec in AUDIO_CODECS.values():
        if codec.kept_as:
            assert (AUDIO_CODECS[codec.kept_as].bits or 0) >= (codec.bits or 0) > 0


@pytest.mark.parametrize("codec", MADE, ids=lambda codec: codec.name)
def test_an_entry_is_sound(codec: VideoCodec) -> None:
    for encoder in codec.encoders:
        assert len(encoder.effort) == len(Balance)
        assert set(encoder.effort) <= set(encoder.efforts)
        speeds = list(encoder.efforts.values())
        assert speeds == sorted(speeds), "from slow to quick"
        if encoder.quality:
            finest, coarsest = encoder.scale
            assert all(finest <= value <= coarsest for value in encoder.quality)
            assert all(before > after for before, after in pairwise(encoder.quality)), "finer with each balance"
        for profile in encoder.profiles:
            assert profile in codec.profiles
            assert codec.levels_of(profile)
    assert codec.plain_profiles <= set(codec.profiles)
    for profile, levels in codec.levels.items():
        assert not profile or profile in codec.profiles
        assert not codec.usual_level or codec.usual_level in levels
    assert set(codec.read_profiles.values()) >= set(codec.profiles), "each can be read"


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
