"""The entries of codecs, containers and forms of subtitles agree with each other."""

from __future__ import annotations

from itertools import pairwise

import pytest

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
    can_hold,
    channels_text,
    codec_name,
)
from rheon.core.planning import Balance

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
        assert len(encoder.preset) == len(Balance)
        assert set(encoder.preset) <= set(encoder.presets)
        speeds = list(encoder.presets.values())
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


def test_containers_hold_what_they_can() -> None:
    assert can_hold("mp4", "h264", "aac")
    assert not can_hold("mp4", "mpeg2video", "aac")
    assert not can_hold("mp3", "h264", "mp3")
    assert can_hold("mp3", None, "mp3")
    assert not can_hold("nothing", None, None)
    assert can_hold("webm", "vp9", "opus") and not can_hold("webm", "h264", "opus")
    assert {container.name for container in CONTAINERS.values()} == set(CONTAINERS)


def test_codecs_and_channels_have_names_even_where_nobody_gave_one() -> None:
    assert [codec_name(name) for name in ("mpeg2video", "ac3", "odd")] == ["MPEG-2", "AC-3", "ODD"]
    assert [channels_text(count) for count in (1, 2, 6, 4)] == ["mono", "stereo", "5.1", "4 channels"]
