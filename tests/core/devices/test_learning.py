"""Answers, the device's browser, files that played and files that did not make one profile surer."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import (
    QUESTIONS,
    DeviceAnswers,
    DeviceProfile,
    MediaFacts,
    Sure,
    Trouble,
    answered,
    asked_besides,
    asked_profile,
    careful,
    catalogue,
    failed,
    lines,
    load_profile,
    open_questions,
    played,
    written,
)
from rheon.core.media import AudioStream, VideoStream

TODAY = "2026-11-27"
HEVC = MediaFacts(
    container="mp4",
    extension="mp4",
    size_bytes=5_000_000,
    duration_s=60,
    video=VideoStream(codec="hevc", width=1920, height=1080, frame_rate=Fraction(24), profile="main", level="4"),
    audio=AudioStream(index=0, codec="aac", channels=2, sample_rate=48000),
)
H264 = replace(
    HEVC,
    video=VideoStream(codec="h264", width=1920, height=1080, frame_rate=Fraction(25), profile="high", level="4"),
)


def sure(profile: DeviceProfile, key: str) -> Sure | None:
    return next((line.sure for line in lines(profile) if line.key == key), None)


def test_yes_makes_known_no_leaves_out_for_good_and_both_are_kept_as_evidence() -> None:
    phone = catalogue()["phone-2015"]
    assert open_questions(phone) == ("camera_films_4k", "mkv_played")
    films = answered(phone, "camera_films_4k", yes=True)
    assert (sure(films, "video.hevc"), sure(films, "video.h264#2")) == (Sure.KNOWN, Sure.KNOWN)
    assert open_questions(films) == ("mkv_played",)
    plain = answered(phone, "camera_films_4k", yes=False)
    assert (sure(plain, "video.hevc"), open_questions(plain)) == (Sure.DOUBTFUL, ("mkv_played",))
    assert [entry.rests_on for entry in plain.evidence] == ["answered"]


def test_larger_sticks_widen_the_limits_and_keep_the_storage() -> None:
    tablet = catalogue()["tablet-small-2013"]
    wide = answered(tablet, "large_sticks", yes=True).limits
    assert (wide.file_system, wide.largest_file_bytes, wide.storage_bytes) == ("exfat", None, 16_000_000_000)
    narrow = answered(tablet, "large_sticks", yes=False)
    assert (narrow.limits.file_system, narrow.limits.perhaps, narrow.limits.sure) == ("fat32", None, Sure.KNOWN)


def test_a_file_that_played_proves_what_it_reached_and_no_more() -> None:
    phone = catalogue()["phone-2015"]
    after = played(phone, HEVC, TODAY)
    assert (sure(after, "video.hevc"), sure(after, "containers.mp4.mp4")) == (Sure.PROVEN, Sure.PROVEN)
    assert "hevc" in {entry.codec for entry in careful(after).video}
    assert HEVC.video
    small = replace(HEVC, video=replace(HEVC.video, width=640, height=360, level="3"))
    seen = played(phone, small, TODAY)
    assert (sure(seen, "video.hevc"), sure(seen, "video.hevc#2")) == (Sure.DOUBTFUL, Sure.PROVEN)
    assert [entry.max_height for entry in careful(seen).video_entries("hevc")] == [360]
    assert played(seen, small, TODAY) == seen


def test_a_file_beyond_the_profile_that_played_becomes_a_line_of_its_own() -> None:
    tv = catalogue()["tv-2010"]
    after = played(tv, replace(HEVC, container="matroska", extension="mkv"), TODAY)
    added = careful(after).video_entries("hevc")[0]
    assert (added.max_width, added.max_level, added.sure) == (1920, "4", Sure.PROVEN)


@pytest.mark.parametrize(
    ("trouble", "gone"),
    [(Trouble.MISSING, "containers"), (Trouble.NO_PICTURE, "video"), (Trouble.SILENT, "audio")],
)
def test_a_file_that_did_not_play_makes_the_line_to_blame_doubtful(trouble: Trouble, gone: str) -> None:
    tv = catalogue()["tv-4k-2017"]
    file = replace(
        HEVC,
        container="matroska",
        extension="mkv",
        audio=AudioStream(index=0, codec="eac3", channels=6, sample_rate=48000),
    )
    after = failed(tv, file, trouble, TODAY)
    changed = {
        topic
        for topic in ("containers", "video", "audio", "subtitles")
        if [entry.sure for entry in getattr(after, topic)] != [entry.sure for entry in getattr(tv, topic)]
    }
    assert changed == {gone}
    assert after.evidence[-1].rests_on == "failed"


def test_a_file_that_does_not_open_is_blamed_on_the_least_sure_of_it() -> None:
    phone = catalogue()["phone-2018"]
    after = failed(phone, HEVC, Trouble.MISSING, TODAY)
    assert (sure(after, "video.hevc"), sure(after, "containers.mp4.mp4")) == (Sure.DOUBTFUL, Sure.KNOWN)
    strange = replace(HEVC, container="avi", extension="avi", video=None, audio=None)
    assert failed(phone, strange, Trouble.MISSING, TODAY).containers == phone.containers


def test_what_was_proven_is_not_blamed_for_another_file() -> None:
    tv = played(catalogue()["tv-2016"], H264, TODAY)
    assert sure(failed(tv, H264, Trouble.NO_PICTURE, TODAY), "video.h264") is Sure.PROVEN


def test_where_nothing_else_is_left_a_smaller_point_is_tried_next() -> None:
    tablet = catalogue()["tablet-small-2017"].model_copy(update={"video": (catalogue()["tablet-small-2017"].video[0],)})
    after = failed(tablet, H264, Trouble.NO_PICTURE, TODAY)
    assert [(entry.max_height, entry.sure) for entry in after.video] == [(1080, Sure.DOUBTFUL), (720, Sure.SUPPOSED)]
    assert [entry.max_height for entry in careful(after).video] == [720]


def test_a_picture_that_stutters_gets_a_lower_rate() -> None:
    tv = catalogue()["tv-2010"]
    assert H264.video
    heavy = replace(H264, video=replace(H264.video, bitrate_bps=15_000_000))
    assert failed(tv, heavy, Trouble.STUTTERS, TODAY).video[0].max_bitrate_bps == 9_000_000


def test_the_device_s_own_browser_raises_lines_and_lowers_none() -> None:
    tv = catalogue()["tv-4k-2014"]
    clips = [
        {"id": "hevc-ten", "played": "yes", "frames": 20, "dropped": 0},
        {"id": "h264-full", "played": "no"},
        {"id": "aac-stereo", "played": "yes"},
        {"id": "ac3-surround", "played": "no"},
        {"id": "vp9-full", "can_play": "probably"},
    ]
    asked = asked_profile(DeviceAnswers.model_validate({"width": 1920, "height": 1080, "clips": clips}), "It")
    after = asked_besides(tv, asked)
    order = list(reversed(Sure))
    for line in lines(tv):
        now = sure(after, line.key)
        assert now is not None and order.index(now) >= order.index(line.sure), line.key
    assert sure(after, "video.vp9") is Sure.SUPPOSED
    assert "hevc" in {entry.codec for entry in careful(after).video if 10 in entry.bit_depths} or sure(
        after, "video.hevc#2"
    )


def test_what_somebody_wrote_rests_on_them() -> None:
    before = catalogue()["tv-2013"]
    document = before.model_copy(
        update={"audio": (before.audio[0].model_copy(update={"max_channels": 2}), *before.audio[1:])}
    )
    after = written(before, document)
    assert after.audio[0].ground and after.audio[0].ground.rests_on == "person"
    assert after.audio[1:] == before.audio[1:]
    assert after.video == before.video


steps = st.lists(
    st.one_of(
        st.tuples(st.just("answer"), st.sampled_from(sorted(QUESTIONS)), st.booleans()),
        st.tuples(st.just("played"), st.sampled_from([HEVC, H264]), st.just(True)),
        st.tuples(st.just("failed"), st.sampled_from([HEVC, H264]), st.sampled_from(list(Trouble))),
    ),
    max_size=6,
)


@given(profile=st.sampled_from(list(catalogue().values())), steps=steps)
def test_whatever_is_learned_leaves_a_profile_that_can_be_planned_with(
    profile: DeviceProfile, steps: list[tuple[str, Any, Any]]
) -> None:
    for kind, what, said in steps:
        if kind == "answer":
            profile = answered(profile, what, yes=said)
        else:
            profile = played(profile, what, TODAY) if kind == "played" else failed(profile, what, said, TODAY)
    again = load_profile(profile.model_dump_json())
    assert again == profile
    left = careful(profile)
    assert left.containers and left.audio
    assert bool(left.video) == bool(profile.video)
