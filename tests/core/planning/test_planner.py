"""For any source and any profile of the catalogue, the plan keeps the profile's rules."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.devices import (
    DeviceProfile,
    Limits,
    MediaFacts,
    Verdict,
    careful,
    catalogue,
    common_ground,
    judge,
    judge_title,
)
from rheon.core.devices.bounds import highest_level, rate_bounds
from rheon.core.errors import BadPin, PlanError
from rheon.core.formats import can_hold, levels_of, most_references, video_encoder
from rheon.core.media import AudioSettings, AudioStream, FileData, Samples, Scan, Source, Title, VideoStream
from rheon.core.media.documents import dump, load
from rheon.core.planning import Action, Balance, Fields, OutputSettings, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.file.outcome import planned_audio, planned_video
from rheon.core.planning.picture.crop import Crop
from rheon.core.wording import sentence
from rheon.demo.models import device

PROFILES = list(catalogue().values())
BALANCES = st.sampled_from(list(Balance))
ANEW = {
    "picture_by_hand": {"picture.rate": "average:900"},
    "sound_by_hand": {"sound.bitrate": "64"},
    "drawn_into_picture": {"subtitles.form": "drawn", "subtitles.track": "0"},
}
"""What is set by hand, by the reason that is told where a title would fit without it."""


def request(title: Title, *devices: DeviceProfile, **more: object) -> PlanRequest:
    return PlanRequest(title=title, devices=devices, name="Film", languages=("en",), **more)  # type: ignore[arg-type]


def facts_of(made: OutputSettings, title: Title) -> MediaFacts:
    """The file that the settings describe, as a check would find it."""
    video, audio = made.video, made.sound
    picture = None
    if video and video.action is Action.COPY:
        picture = title.video
    elif video:
        picture = VideoStream(
            codec=video.codec,
            width=video.width,
            height=video.height,
            frame_rate=video.frame_rate,
            sample_aspect=video.sample_aspect,
            scan=Scan.PROGRESSIVE,
            bit_depth=video.bit_depth,
            profile=video.profile,
            level=video.level,
            reference_frames=video.reference_frames,
            bitrate_bps=video.peak_bps,
        )
    sound = None
    if audio and audio.action is Action.COPY:
        sound = title.audio[audio.track]
    elif audio:
        sound = AudioStream(
            index=0,
            codec=audio.codec,
            channels=audio.channels,
            sample_rate=audio.sample_rate,
            bitrate_bps=audio.bitrate_bps,
            profile="lc" if audio.codec == "aac" else None,
        )
    return MediaFacts(
        container=made.container,
        size_bytes=0,
        duration_s=title.duration_s,
        video=picture,
        audio=sound,
        extension=made.file_name.rpartition(".")[2],
        index_in_front=True,
    )


def assert_obeys(made: Plan, title: Title, profile: DeviceProfile) -> None:
    settings_ = made.settings
    assert settings_ is not None
    broken = [rule for rule in judge(facts_of(settings_, title), careful(profile)) if not rule.ok]
    assert broken == []
    video, audio = settings_.video, settings_.sound
    assert can_hold(settings_.container, video.codec if video else None, audio.codec if audio else None)
    if video and video.action is Action.ENCODE:
        assert_inside_level(made, profile)
        assert_not_enlarged(made, title)
    limit = profile.limits.largest_file_bytes
    if limit and video and video.action is Action.ENCODE:
        worst_bytes = (
            (video.peak_bps or 0) + sum(most_bps(one, title) for one in settings_.audio)
        ) * title.duration_s / 8 + (video.buffer_bits or 0) / 8
        assert worst_bytes <= limit


def most_bps(sound: AudioSettings, title: Title) -> float:
    """What a track takes at most: as it is set or counted, as much as AC-3 may, or as samples of 24 bits do."""
    if sound.action is Action.COPY:
        return title.audio[sound.track].bitrate_bps or 640_000
    return sound.bitrate_bps or 24 * sound.sample_rate * sound.channels


def assert_inside_level(made: Plan, profile: DeviceProfile) -> None:
    video = made.settings.video if made.settings else None
    assert video and video.peak_bps and video.buffer_bits and video.reference_frames
    levels = levels_of(video.codec, video.profile)
    if not levels:
        return
    assert video.level
    level = levels[video.level]
    assert level.holds_picture(video.width, video.height, video.frame_rate)
    assert level.of_fields or video.fields is not Fields.KEEP
    assert video.peak_bps <= level.bitrate_bps
    assert video.buffer_bits <= level.buffer_bits
    if video.codec != "mpeg4":
        assert video.reference_frames <= most_references(video.codec, level, video.width, video.height)
    entries = profile.video_entries(video.codec)
    bounds = [rate_bounds(entry, highest_level(entry, video.profile)) for entry in entries]
    assert any(video.peak_bps <= b.peak_bps and video.buffer_bits <= b.buffer_bits for b in bounds)


def assert_not_enlarged(made: Plan, title: Title) -> None:
    video, source = made.settings.video if made.settings else None, title.video
    assert video and source
    source = Crop(borders=video.crop, reason=made.reason).applied(source)
    turned = source.rotation % 180 != 0
    height = source.width if turned else source.height
    assert video.height <= max(16, height)
    assert video.width <= max(16, height * source.display_aspect + 2, source.height if turned else source.width)  # type: ignore[operator]
    # a codec that has a code for few rates has none below its lowest
    taken = source.frame_rate * (2 if video.fields is Fields.DOUBLE else 1)
    assert video.frame_rate <= max(taken, min(video_encoder(video.codec).frame_rates, default=Fraction(0)))
    kept = Fraction(video.width, video.height) * video.sample_aspect
    # the ratio is kept as nearly as two-pixel steps allow
    step = Fraction(2 + 1, video.height) * max(1, kept) + Fraction(3, video.width)  # type: ignore[operator]
    assert (
        abs(kept - source.display_aspect) <= step + kept * Fraction(3, video.height)
        or min(video.width, video.height) <= 16
    )


@settings(max_examples=400, deadline=None)
@given(titles(), st.sampled_from(PROFILES), BALANCES)
def test_every_plan_keeps_every_rule_of_its_device(title: Title, profile: DeviceProfile, balance: Balance) -> None:
    made = plan(request(title, profile, balance=balance))
    for reason in (made.reason, *(decision.reason for decision in made.decisions)):
        assert sentence(reason)
    if made.treatment in (Verdict.PLAYS, Verdict.CANNOT):
        assert made.settings is None
        return
    assert_obeys(made, title, profile)
    assert (
        made.estimate and 0 < made.estimate.size_low_bytes <= made.estimate.size_bytes <= made.estimate.size_high_bytes
    )


@pytest.mark.parametrize(
    ("hours", "action"), [(2, Action.COPY), (4.9, Action.COPY), (5.2, Action.ENCODE), (9, Action.ENCODE)]
)
def test_sound_that_may_take_nearly_all_of_a_file_is_made_smaller_beside_a_picture(
    hours: float, action: Action
) -> None:
    """It may be 640 kb/s, nobody counted: three quarters of 2000 MB are reached after five hours."""
    video = VideoStream(codec="mpeg2video", width=352, height=288, frame_rate=Fraction(25))
    track = AudioStream(index=0, codec="aac", channels=1, sample_rate=44100, language="en")
    title = Title(
        number=1, duration_s=hours * 3600, size_bytes=10**9, data=FileData(path="/nowhere"), container="matroska",
        video=video, audio=(track,),
    )  # fmt: skip
    phone = device("phone-keys")
    made = plan(request(title, phone))
    assert made.settings and made.settings.sound and made.estimate
    assert made.settings.sound.action is action
    assert made.estimate.size_high_bytes <= (phone.limits.largest_file_bytes or 0)
    reason = next(decision.reason for decision in made.decisions if decision.key == "sound.codec")
    assert ("too much of the limit" in sentence(reason)) == (action is Action.ENCODE)


@settings(max_examples=90, deadline=None)
@given(titles(), st.sampled_from(PROFILES), st.sampled_from(list(ANEW)))
def test_what_would_fit_as_it_is_says_what_it_is_made_anew_for(title: Title, profile: DeviceProfile, why: str) -> None:
    subtitles = title.subtitles if why == "drawn_into_picture" else ()
    try:
        fitting = made_before(replace(title, subtitles=subtitles), profile)
        assume(judge_title(fitting, profile).verdict is not Verdict.CONVERT)
        made = plan(request(fitting, profile, pins=read_pins(ANEW[why])))
    except (BadPin, PlanError):
        assume(False)
    said = sentence(made.reason)
    assert (made.reason.code, made.treatment) == (why, Verdict.CONVERT)
    assert said.startswith("it would fit as it is; ")


def made_before(title: Title, profile: DeviceProfile) -> Title:
    """The file that would be made of a title for a device, as a title of its own, with its subtitles beside it."""
    settings_ = plan(request(title, profile)).settings
    assume(settings_ is not None and settings_.video is not None and settings_.audio)
    assert settings_ and settings_.video
    return replace(
        title,
        container=settings_.container,
        video=planned_video(title, settings_.video),
        audio=tuple(replace(planned_audio(title, one), index=at) for at, one in enumerate(settings_.audio)),
    )


@settings(max_examples=150, deadline=None)
@given(titles(), st.lists(st.sampled_from(PROFILES), min_size=2, max_size=3, unique_by=lambda p: p.id))
def test_one_file_for_several_devices_keeps_the_rules_of_each(title: Title, profiles: list[DeviceProfile]) -> None:
    try:
        common_ground([careful(profile) for profile in profiles])
        # what is too long for the largest file that one of them takes is refused
        made = plan(request(title, *profiles))
    except PlanError:
        assume(False)
    if made.settings is not None:
        for profile in profiles:
            facts = facts_of(made.settings, title)
            assert [rule for rule in judge(facts, careful(profile)) if not rule.ok] == []


@settings(max_examples=100, deadline=None)
@given(titles(), st.sampled_from(PROFILES))
def test_a_plan_is_reproducible_and_survives_being_stored(title: Title, profile: DeviceProfile) -> None:
    made = plan(request(title, profile))
    assert plan(request(title, profile)) == made
    assert load(Plan, dump(made)) == made
    assert load(Title, dump(title)) == title


@settings(max_examples=100, deadline=None)
@given(titles(), st.sampled_from(PROFILES))
def test_what_a_device_plays_is_left_alone_and_what_it_takes_is_copied(title: Title, profile: DeviceProfile) -> None:
    judged = judge_title(title, profile, ("en",))
    made = plan(request(replace(title, subtitles=()), profile))
    if judged.verdict is Verdict.PLAYS:
        assert made.settings is None
    if judged.verdict is Verdict.REWRAP and made.settings:
        parts = (made.settings.video, *made.settings.audio)
        assert all(part is None or part.action is Action.COPY for part in parts)


def decisions(made: Plan) -> dict[str, tuple[str, bool]]:
    """What the sheet shows before somebody asks for more, and whatever was pinned."""
    return {d.key: (d.text, d.pinned) for d in made.decisions if not d.fine or d.pinned}


def test_the_film_for_the_tablet_is_planned_as_the_trade_would(film_disc: Source) -> None:
    made = plan(request(film_disc.titles[0], device("heron-8")))
    assert decisions(made) == {
        "picture.crop": ("nothing", False),
        "picture.size": ("854 × 480", False),
        "picture.frame_rate": ("29.97 frames/s", False),
        "picture.codec": ("H.264 High @ 3.1", False),
        "picture.rate": ("constant quality 21", False),
        "sound.track": ("English, 5.1", False),
        "sound.codec": ("AAC stereo, 160 kb/s", False),
        "range.keep": ("the whole title", False),
        "subtitles.track": ("none", False),
        "file.container": ("MP4, index in front", False),
        "file.name": ("Film.mp4", False),
        "file.kind": ("film", False),
        "file.title": ("Film", False),
        "file.chapters": ("6", False),
    }


def test_interlaced_material_is_deinterlaced_and_surround_is_copied_where_the_device_takes_it(
    film_disc: Source, series_disc: Source
) -> None:
    episode = plan(request(series_disc.titles[0], device("wren-6"))).settings
    assert episode and episode.video
    assert (episode.video.fields, episode.video.width, episode.video.height) == (Fields.JOIN, 768, 576)
    tv = plan(request(film_disc.titles[0], device("gannet-43"))).settings
    assert tv and tv.sound
    assert (tv.sound.action, tv.sound.codec, tv.sound.channels) == (Action.COPY, "ac3", 6)


def test_pins_hold_and_the_rest_is_solved_around_them(film_disc: Source) -> None:
    pins = {"sound.track": "1", "subtitles.track": "0", "file.name": 'a/b "c"|\n-\U0001f600', "picture.size": "240"}
    made = plan(request(film_disc.titles[0], device("heron-8"), pins=read_pins(pins)))
    said = decisions(made)
    assert said["sound.track"] == ("Spanish, stereo", True)
    assert said["subtitles.track"] == ("English, drawn into the picture", True)
    assert said["picture.size"] == ("426 × 240", True)
    assert said["file.name"] == ("a-b 'c'- -\U0001f600.mp4", True)


def test_a_household_that_does_not_follow_the_sound_gets_subtitles(film_disc: Source) -> None:
    foreign = replace(film_disc.titles[0], audio=film_disc.titles[0].audio[1:])
    made = plan(request(replace(foreign, audio=(replace(foreign.audio[0], index=0),)), device("heron-8")))
    assert decisions(made)["subtitles.track"] == ("English, drawn into the picture", False)


@pytest.mark.parametrize(
    "pins",
    [
        {"sound.track": "7"},
        {"subtitles.track": "x"},
        {"picture.codec": "quicktime"},
        {"colour": "red"},
        {"picture.size": "-3"},
    ],
)
def test_a_pin_that_names_nothing_is_refused_with_a_sentence(film_disc: Source, pins: dict[str, str]) -> None:
    with pytest.raises(BadPin, match=r"\w+ .*\."):
        plan(request(film_disc.titles[0], device("heron-8"), pins=read_pins(pins)))


def samples(coarse: float, fine: float) -> Samples:
    return Samples(coarse_quality=27, coarse_bits=coarse, fine_quality=17, fine_bits=fine)


def test_measured_samples_replace_the_guess(film_disc: Source) -> None:
    film = film_disc.titles[0]
    plain, hard = (
        plan(request(film, device("heron-8"), samples=samples(bits, 4 * bits))).estimate for bits in (0.005, 0.05)
    )
    assert plain and hard
    assert hard.size_bytes > 3 * plain.size_bytes
    # the picture is unsure by a fifth either way, the sound's rate is set
    assert 0.15 < (plain.size_high_bytes - plain.size_low_bytes) / plain.size_bytes < 0.4
    guessed = plan(request(film, device("heron-8"))).estimate
    assert guessed and guessed.size_high_bytes > 2 * guessed.size_bytes


def test_samples_grow_evenly_between_their_ends_and_beyond() -> None:
    measured = samples(1.0, 4.0)
    assert [measured.bits_at(quality) for quality in (27, 22, 17, 12)] == pytest.approx([1.0, 2.0, 4.0, 8.0])


def test_a_long_film_stays_under_the_tablet_s_file_limit(film_disc: Source) -> None:
    long = replace(film_disc.titles[0], duration_s=5 * 3600.0)
    made = plan(request(long, device("heron-8"), balance=Balance.RICH, samples=samples(0.5, 1.0)))
    assert made.settings and made.settings.video and made.settings.video.peak_bps
    assert made.settings.video.peak_bps * long.duration_s / 8 < 2_000_000_000


def test_a_small_file_limit_takes_pixels_away_and_one_that_is_too_small_is_refused(film_disc: Source) -> None:
    long = replace(film_disc.titles[0], duration_s=2 * 3600.0)

    def limited(most_bytes: int) -> Plan:
        limits = Limits(max_file_bytes=most_bytes)
        return plan(request(long, device("heron-8").model_copy(update={"limits": limits})))

    free, small = limited(20_000_000_000), limited(200_000_000)
    assert free.settings and free.settings.video and small.settings and small.settings.video
    assert small.settings.video.height < free.settings.video.height
    assert next(one for one in small.decisions if one.key == "picture.size").reason.code == "fewer_pixels"
    assert small.estimate and small.estimate.size_high_bytes < 200_000_000
    with pytest.raises(PlanError, match="files of 100 MB at most, which is too little"):
        limited(100_000_000)
