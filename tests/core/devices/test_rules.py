"""Each rule by itself: what keeps it, what breaks it, and what is said of both."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.devices import (
    AudioEntry,
    ContainerEntry,
    DeviceKind,
    DeviceProfile,
    Limits,
    MediaFacts,
    Verdict,
    VideoEntry,
    catalogue,
    common_ground,
    judge,
    judge_title,
)
from rheon.core.devices.rules import broken
from rheon.core.errors import PlanError
from rheon.core.media import AudioStream, Scan, VideoStream
from rheon.core.wording import RULE_NAMES, sentence, sides

PROFILE = DeviceProfile(
    id="tight",
    name="Tight",
    kind=DeviceKind.TABLET,
    containers=(ContainerEntry(format="mp4", extension="m4v"),),
    video=(
        VideoEntry(
            codec="h264",
            profiles=("baseline", "main"),
            max_level="3.1",
            max_width=1280,
            max_height=720,
            max_frame_rate="30",
            max_bitrate_bps=5_000_000,
            max_reference_frames=3,
        ),
    ),
    audio=(AudioEntry(codec="aac", max_channels=2, sample_rates=(44100, 48000), max_bitrate_bps=160_000),),
    limits=Limits(max_file_bytes=1_000_000_000),
)
VIDEO = VideoStream(
    codec="h264",
    width=1280,
    height=720,
    frame_rate=Fraction(25),
    scan=Scan.PROGRESSIVE,
    profile="main",
    level="3.1",
    reference_frames=3,
    bitrate_bps=4_000_000,
)
AUDIO = AudioStream(index=0, codec="aac", channels=2, sample_rate=48000, profile="lc", bitrate_bps=160_000)
FACTS = MediaFacts(
    container="mp4",
    size_bytes=900_000_000,
    duration_s=60.0,
    video=VIDEO,
    audio=AUDIO,
    extension="m4v",
    index_in_front=True,
)


def test_a_file_on_every_bound_keeps_every_rule() -> None:
    results = judge(FACTS, PROFILE)
    assert [result.rule for result in results if not result.ok] == []
    assert len(results) == 19
    assert {result.rule for result in results} <= set(RULE_NAMES)
    assert broken(FACTS, PROFILE) == []


@pytest.mark.parametrize(
    ("facts", "rule", "measured", "allowed"),
    [
        (replace(FACTS, container="matroska", extension="m4v"), "container", "matroska", "mp4"),
        (replace(FACTS, extension="mp4"), "extension", "mp4", "m4v"),
        (replace(FACTS, index_in_front=False), "index", "at the end", "in front"),
        (replace(FACTS, size_bytes=1_000_000_001), "file_size", "1000.0 MB", "up to 1000 MB"),
        (replace(FACTS, video=replace(VIDEO, codec="hevc")), "video_codec", "hevc", "h264"),
        (replace(FACTS, video=replace(VIDEO, profile="high")), "profile", "high", "baseline or main"),
        (replace(FACTS, video=replace(VIDEO, level="3.2")), "level", "3.2", "up to 3.1"),
        (replace(FACTS, video=replace(VIDEO, width=1282)), "picture", "1282×720", "up to 1280×720"),
        (replace(FACTS, video=replace(VIDEO, frame_rate=Fraction(60000, 1001))), "frame_rate", "59.940", "up to 30"),
        (replace(FACTS, video=replace(VIDEO, reference_frames=4)), "reference_frames", "4", "up to 3"),
        (replace(FACTS, video=replace(VIDEO, bit_depth=10)), "bit_depth", "10 bits", "8 bits"),
        (replace(FACTS, video=replace(VIDEO, scan=Scan.INTERLACED)), "scan", "interlaced", "progressive"),
        (
            replace(FACTS, video=replace(VIDEO, sample_aspect=Fraction(4, 3))),
            "pixel_shape",
            "4:3 (2.37:1 shown)",
            "square",
        ),
        (replace(FACTS, video=replace(VIDEO, bitrate_bps=6_000_000)), "bitrate", "6.0 Mb/s", "up to 5.0 Mb/s"),
        (replace(FACTS, audio=replace(AUDIO, codec="ac3")), "audio_codec", "ac3", "aac"),
        (replace(FACTS, audio=replace(AUDIO, channels=6)), "channels", "6", "up to 2"),
        (replace(FACTS, audio=replace(AUDIO, sample_rate=96000)), "sample_rate", "96 kHz", "44.1 or 48 kHz"),
        (replace(FACTS, audio=replace(AUDIO, bitrate_bps=200_000)), "audio_bitrate", "200 kb/s", "up to 160 kb/s"),
        (replace(FACTS, audio=replace(AUDIO, profile="he")), "audio_profile", "he", "lc"),
    ],
)
def test_one_step_over_a_bound_breaks_that_rule_and_says_both_sides(
    facts: MediaFacts, rule: str, measured: str, allowed: str
) -> None:
    names = broken(facts, PROFILE)
    assert rule in names
    result = next(entry for entry in judge(facts, PROFILE) if entry.rule == rule)
    assert (result.ok, *sides(result.measured, result.allowed, raw=True)) == (False, measured, allowed)


def test_what_nobody_knows_breaks_nothing() -> None:
    unknown = replace(VIDEO, profile=None, level=None, reference_frames=None, bitrate_bps=None)
    quiet = replace(AUDIO, profile=None, bitrate_bps=None)
    facts = replace(FACTS, video=unknown, audio=quiet, extension=None, index_in_front=None)
    assert broken(facts, PROFILE) == []
    assert len(judge(facts, PROFILE)) < 15


def test_of_several_entries_the_nearest_is_the_one_that_speaks() -> None:
    second = PROFILE.video[0].model_copy(update={"max_width": 640, "max_height": 480, "profiles": ("high",)})
    both = PROFILE.model_copy(update={"video": (second, *PROFILE.video)})
    assert broken(FACTS, both) == []


@given(titles(), st.sampled_from(list(catalogue().values())))
def test_verdicts_always_have_a_sentence_and_agree_with_the_rules(title: object, profile: DeviceProfile) -> None:
    judged = judge_title(title, profile, ("en",))  # type: ignore[arg-type]
    assert sentence(judged.reason)
    if judged.verdict is Verdict.PLAYS:
        assert all(rule.ok for rule in judged.rules)
    assert {rule.rule for rule in judged.rules if not rule.ok} == set(judged.broken) or judged.refusal


@given(st.lists(st.sampled_from(list(catalogue().values())), min_size=2, max_size=3, unique_by=lambda p: p.id))
def test_common_ground_does_not_depend_on_the_order(profiles: list[DeviceProfile]) -> None:
    def shape(order: list[DeviceProfile]) -> object:
        try:
            found = common_ground(order)
        except PlanError:
            return None
        video = {entry.codec: entry.model_dump(exclude={"profiles", "bit_depths"}) for entry in found.video}
        audio = {entry.codec: (entry.max_channels, entry.max_bitrate_bps) for entry in found.audio}
        return {entry.format for entry in found.containers}, video, audio, found.limits

    assert shape(profiles) == shape(profiles[::-1])
