"""Pins: kept whatever they break, what they break is said, and nothing else moves without a reason."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.devices import DeviceProfile, careful, catalogue, judge
from rheon.core.errors import BadPin, PlanError
from rheon.core.media import Borders, Colour, Forced, KeptRange, Scan, Source, SubtitleStream, Title, VideoStream
from rheon.core.media.documents import dump, load
from rheon.core.media.kept import kept_title
from rheon.core.planning import (
    CALLED_NOW,
    DECISIONS,
    Action,
    Balance,
    Fields,
    Plan,
    PlanRequest,
    SoundWish,
    SubtitleForm,
    SubtitleWish,
    plan,
    plan_diff,
    read_pins,
)
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of
from rheon.core.planning.file.outcome import planned_facts
from rheon.core.wording import CONSEQUENCES, sentence
from rheon.demo.models import device

PROFILES = list(catalogue().values())
VALUES = {
    "picture.aspect": ["4:3", "16:9", "2.39"],
    "picture.size": ["240", "480", "1080", "640x360"],
    "picture.rotation": ["0", "90", "180", "270"],
    "picture.screen_fit": ["fit", "fill", "stretch"],
    "picture.pixels": ["square", "stored"],
    "picture.frame_rate": ["25", "23.976", "60"],
    "picture.fields": ["leave", "keep", "join", "double", "restore", "match"],
    "picture.field_order": ["top", "bottom"],
    "picture.deinterlacer": ["yadif", "w3fdif"],
    "picture.codec": ["h264", "hevc", "vp9", "av1", "mpeg4", "mpeg2video", "wmv2", "copy"],
    "picture.depth": ["8", "10"],
    "picture.colour": ["601", "709"],
    "picture.denoise": ["off", "light", "strong"],
    "picture.deband": ["off", "light", "strong"],
    "picture.rate": ["quality:30", "average:800", "size:300"],
    "picture.passes": ["1", "2"],
    "picture.peak": ["900", "90000"],
    "picture.buffer": ["2000"],
    "picture.keyframes": ["1", "12"],
    "picture.encoder": ["software", "hardware", "vaapi"],
    "sound.track": ["0", "none"],
    "sound.codec": ["copy", "aac", "ac3", "opus", "flac", "mp3"],
    "sound.channels": ["1", "2", "6"],
    "sound.sample_rate": ["44100", "48000"],
    "sound.bitrate": ["128"],
    "sound.gain": ["6", "even"],
    "subtitles.track": ["0", "none"],
    "subtitles.form": ["drawn", "track", "file"],
    "range.keep": ["0-2", "0:01-1.5,#60-", "c1", "5:00:00-"],
    "range.cut": ["exact", "edges", "copy"],
    "subtitles.lines": ["forced"],
    "file.container": ["mp4", "matroska", "webm", "mpeg_ts", "asf", "avi"],
    "file.chapters": ["none"],
    "file.artwork": ["inside", "beside", "both", "none"],
    "file.name": ["Other"],
    "file.pattern": ["flat", "folders", "{{ year }}/{{ title }}", "{{ genre }}"],
    "file.kind": ["film", "episode", "extra", "sound"],
    "file.title": ["A/B: “C”", ""],
    "file.show": ["Tide Watch"],
    "file.season": ["0", "2", ""],
    "file.episode": ["11", ""],
    "file.part": ["2"],
    "file.year": ["1994"],
    "file.edition": ["extended"],
    "file.genre": ["Drama"],
    "file.director": ["Ada Fenwick"],
    "file.cast": ["Jo Tern, Mira Sedge"],
    "file.artist": ["The Sluices"],
    "file.description": ["What it is about."],
    "file.comment": ["To be seen again."],
}
PINS = st.dictionaries(st.sampled_from(sorted(VALUES)), st.integers(0, 7), max_size=4).map(
    lambda chosen: {key: VALUES[key][at % len(VALUES[key])] for key, at in chosen.items()}
)


def cut_only(pins: dict[str, str]) -> dict[str, str]:
    """Pins that leave the picture as it is, but for a cut."""
    return {key: value for key, value in pins.items() if not key.startswith("picture.")} | {"range.keep": "0:01-"}


def planned(title: Title, *names: str, **more: object) -> Plan:
    return plan(
        PlanRequest(title=title, devices=tuple(map(device, names)), name="Film", languages=("en",), **more)  # type: ignore[arg-type]
    )


def said(made: Plan) -> dict[str, str]:
    return {decision.key: decision.text for decision in made.decisions}


@settings(max_examples=400, deadline=None)
@given(titles(), st.sampled_from(PROFILES), PINS)
def test_whatever_is_pinned_is_kept_and_every_rule_it_breaks_is_said(
    title: Title, profile: DeviceProfile, pins: dict[str, str]
) -> None:
    request = PlanRequest(title=title, devices=(profile,), name="Film", languages=("en",), pins=read_pins(pins))
    try:
        made = plan(request)
    except (BadPin, PlanError) as refused:
        assert refused.message.endswith((".", "?"))
        return
    assert plan(request) == made
    assert load(Plan, dump(made)) == made
    if made.settings is None or made.estimate is None:
        return
    for reason in (decision.reason for decision in made.decisions):
        assert sentence(reason)
    title = kept_title(title, made.settings.kept)
    broken = {
        rule.rule for rule in judge(planned_facts(title, made.settings, made.estimate), careful(profile)) if not rule.ok
    }
    assert broken == {breach.rule for breach in made.breaches} - {"peak_rate"}
    assert broken <= set(CONSEQUENCES)
    shown = {decision.key: decision for decision in made.decisions}
    for key in pins.keys() & shown.keys():
        assert shown[key].pinned, key
        assert sentence(shown[key].reason), key


PLAIN = VideoStream(codec="h264", width=640, height=360, frame_rate=Fraction(25), profile="main", level="3")


@settings(max_examples=200, deadline=None)
@given(titles(), st.sampled_from(PROFILES), PINS.map(cut_only), st.floats(0.01, 0.45))
def test_what_is_copied_between_encoded_edges_can_always_be_made_some_other_way(
    title: Title, profile: DeviceProfile, pins: dict[str, str], edge: float
) -> None:
    title, read = replace(title, video=PLAIN, duration_s=max(title.duration_s, 60)), read_pins(pins)
    wanted = read.of(KEEP)
    assert wanted
    kept = kept_of(title, wanted)
    within = [(one.from_s + edge * one.length_s, one.until_s - edge * one.length_s) for one in kept]
    middles = tuple(KeptRange(from_s=a, until_s=b) for a, b in within)
    request = PlanRequest(title=title, devices=(profile,), name="Film", pins=read, middles=middles)
    try:
        made = plan(request)
    except (BadPin, PlanError) as refused:
        assert refused.message.endswith((".", "?"))
        return
    copied = made.settings is not None and bool(made.settings.middles)
    assert copied == (made.instead is not None)
    assert load(Plan, dump(made)) == made
    shown = {decision.key: decision for decision in made.decisions}
    if not copied or made.settings is None or made.settings.video is None:
        assert "range.cut" not in shown or shown["range.cut"].value != "edges"
        return
    assert (shown["range.cut"].value, made.settings.video.action) == ("edges", Action.COPY)
    edges = made.settings.video.edges
    assert edges and (edges.codec, edges.width, edges.height, edges.profile, edges.level) == (
        "h264", 640, 360, "main", "3",
    )  # fmt: skip
    assert made.instead and made.instead.settings and made.instead.settings.video
    assert (made.instead.settings.middles, made.instead.settings.video.action) == ((), Action.ENCODE)
    assert all(sentence(decision.reason) for decision in (*made.decisions, *made.instead.decisions))


def test_every_key_that_can_be_pinned_is_tried_here_or_has_a_test_of_its_own() -> None:
    elsewhere = {"picture.crop", "picture.profile", "picture.level", "picture.preset", "range.join"}
    assert set(VALUES) | elsewhere == set(DECISIONS)


def test_a_codec_that_the_device_does_not_take_is_made_and_marked(film_disc: Source) -> None:
    made = planned(film_disc.titles[0], "heron-8", pins=read_pins({"picture.codec": "hevc"}))
    assert made.settings and made.settings.video
    assert made.settings.video.codec == "hevc"
    assert [(breach.device_name, breach.rule) for breach in made.breaches] == [("Heron 8", "video_codec")]


def test_a_size_by_hand_may_enlarge_and_takes_the_level_it_needs(film_disc: Source) -> None:
    made = planned(film_disc.titles[0], "wren-6", pins=read_pins({"picture.size": "2160"}))
    assert made.settings and made.settings.video
    video = made.settings.video
    assert (video.height, video.width) == (2160, 3840)
    assert {"picture", "level"} <= {breach.rule for breach in made.breaches}


def test_a_target_size_is_met_by_the_rate_and_few_bits_take_fewer_pixels(film_disc: Source) -> None:
    film = replace(film_disc.titles[0], duration_s=5400.0)
    roomy = planned(film, "heron-8", pins=read_pins({"picture.rate": "size:1400"}))
    assert roomy.settings and roomy.settings.video and roomy.estimate and roomy.settings.sound
    bps = roomy.settings.video.bitrate_bps or 0
    total = (bps + (roomy.settings.sound.bitrate_bps or 0)) * 5400 / 8
    assert total == pytest.approx(1.4e9, rel=0.015)
    assert (roomy.settings.video.passes, roomy.settings.video.height) == (2, 480)
    assert roomy.estimate.size_bytes == pytest.approx(1.4e9, rel=0.03)
    tight = planned(film, "heron-8", pins=read_pins({"picture.rate": "size:130"}))
    assert tight.settings and tight.settings.video
    assert tight.settings.video.height < 480
    reason = next(decision.reason for decision in tight.decisions if decision.key == "picture.size")
    assert reason.code == "fewer_pixels"
    kept = planned(film, "heron-8", pins=read_pins({"picture.rate": "size:130", "picture.size": "480"}))
    assert kept.settings and kept.settings.video and kept.settings.video.height == 480


@pytest.mark.parametrize(
    ("pins", "clause"),
    [
        ({"picture.rate": "quality:70"}, "it can be 0 to 51"),
        ({"picture.rate": "lots"}, "say quality:21"),
        ({"picture.codec": "mpeg4", "picture.rate": "quality:5"}, "an average rate or a size"),
        ({"file.container": "webm", "picture.codec": "h264"}, "WebM can't hold"),
        ({"subtitles.form": "file", "subtitles.track": "0"}, "text file"),
        ({"picture.codec": "copy", "picture.size": "240"}, "can't be changed"),
        ({"sound.channels": "6", "sound.codec": "mp3"}, "up to 2 channels"),
        ({"picture.preset": "frantic"}, "preset"),
        ({"picture.level": "9"}, "level"),
        ({"sound.gain": "90"}, "-20 to 20"),
        ({"picture.frame_rate": "1e9999999"}, "no frame rate"),
        ({"picture.aspect": "1e-999999"}, "no aspect"),
        ({"sound.sample_rate": "5"}, "it can be"),
    ],
)
def test_a_pin_that_can_t_be_meant_is_refused_with_what_could_be(
    film_disc: Source, pins: dict[str, str], clause: str
) -> None:
    with pytest.raises(BadPin, match=clause):
        planned(film_disc.titles[0], "cormorant-box", pins=read_pins(pins))


def test_only_what_depends_on_a_change_moves_and_says_why(film_disc: Source) -> None:
    film = film_disc.titles[0]
    before = planned(film, "heron-8")
    renamed = planned(film, "heron-8", pins=read_pins({"file.name": "Other"}))
    assert plan_diff(before, renamed, {"file.name"}) == ()
    louder = planned(film, "heron-8", pins=read_pins({"sound.gain": "6"}))
    assert plan_diff(before, louder, {"sound.gain"}) == ()
    smaller = planned(film, "heron-8", pins=read_pins({"picture.size": "240"}))
    moved = {move.key: (move.before, move.after) for move in plan_diff(before, smaller, {"picture.size"})}
    assert set(moved) <= {"picture.codec", "picture.level", "picture.peak", "picture.buffer"}
    assert moved["picture.level"][0] != moved["picture.level"][1]
    webm = planned(film, "heron-8", pins=read_pins({"file.container": "webm"}))
    moved = {move.key: (move.before, move.after) for move in plan_diff(before, webm, {"file.container"})}
    assert moved["picture.codec"] == ("H.264 High @ 3.1", "VP9 profile 0 @ 3")
    assert moved["sound.codec"] == ("AAC stereo, 160 kb/s", "Opus stereo, 112 kb/s")


def test_colours_follow_the_size_and_say_so(film_disc: Source) -> None:
    film = film_disc.titles[0]
    assert film.video
    hd = Colour(matrix="bt709", primaries="bt709", transfer="bt709", full_range=True)
    large = replace(film, video=replace(film.video, width=1920, height=1080, sample_aspect=Fraction(1), colour=hd))
    small = planned(large, "heron-8", pins=read_pins({"picture.size": "480"})).settings
    assert small and small.video and small.video.colour
    assert (small.video.colour.matrix, small.video.colour.full_range) == ("smpte170m", False)
    assert small.video.colour_from == hd
    same = planned(film, "heron-8").settings
    assert same and same.video and same.video.colour
    assert (same.video.colour.matrix, same.video.colour_from) == ("smpte170m", None)


def test_wishes_of_the_household_choose_sound_and_subtitles(film_disc: Source) -> None:
    film = film_disc.titles[0]
    tv = planned(film, "gannet-43", sound=SoundWish.STEREO).settings
    assert tv and tv.sound
    assert (tv.sound.action, tv.sound.channels) == (Action.ENCODE, 2)
    always = planned(film, "heron-8", subtitles=SubtitleWish.ALWAYS).settings
    assert always and always.drawn and always.drawn.track == 0
    mixed = replace(
        film,
        subtitles=(
            SubtitleStream(index=0, format="dvd_subtitle", language="en", forced=Forced.SOME, stream_id=0x20),
            SubtitleStream(index=1, format="dvd_subtitle", language="es", forced=Forced.ALL, stream_id=0x21),
        ),
    )
    forced = planned(mixed, "heron-8", subtitles=SubtitleWish.FORCED).settings
    assert forced and forced.drawn
    assert (forced.drawn.track, forced.drawn.only_forced) == (0, True)
    assert said(planned(film, "heron-8", subtitles=SubtitleWish.NEVER))["subtitles.track"] == "none"


def test_several_tracks_go_along_where_they_are_asked_for(film_disc: Source) -> None:
    pins = {"sound.track": "1,0", "subtitles.track": "0,1", "subtitles.form": "track", "file.container": "matroska"}
    made = planned(film_disc.titles[0], "cormorant-box", pins=read_pins(pins)).settings
    assert made
    assert [sound.track for sound in made.audio] == [1, 0]
    assert [(subtitle.form, subtitle.format) for subtitle in made.subtitles] == [
        (SubtitleForm.TRACK, "dvd_subtitle")
    ] * 2


def test_a_faithful_copy_keeps_every_track(film_disc: Source) -> None:
    film = film_disc.titles[0]
    made = planned(film, "faithful-copy")
    assert made.settings and made.settings.video
    assert made.settings.video.action is Action.COPY
    assert [sound.track for sound in made.settings.audio] == [track.index for track in film.audio]
    assert [subtitle.track for subtitle in made.settings.subtitles] == [track.index for track in film.subtitles]
    assert made.settings.file_name == "Film.mkv"
    named = planned(film, "faithful-copy", pins=read_pins({"file.name": "Mine", "range.keep": "0:02-0:06"})).settings
    assert named and named.file_name == "Mine.mkv" and named.kept


def test_what_a_faithful_copy_would_not_follow_is_refused_and_never_left_out(film_disc: Source) -> None:
    streams = [key for key in VALUES if key.partition(".")[0] in ("picture", "sound", "subtitles")]
    for key in (*streams, "file.container", "file.chapters"):
        pins = read_pins({key: VALUES[key][0]})
        with pytest.raises(BadPin, match=f"{DECISIONS[key].label} can't be set for it. Take that back"):
            planned(film_disc.titles[0], "faithful-copy", pins=pins)


def test_fields_and_crop_by_hand_and_the_effort_of_each_balance(film_disc: Source) -> None:
    film = film_disc.titles[0]
    assert film.video
    fielded = replace(film, video=replace(film.video, scan=Scan.INTERLACED, borders=Borders(top=40, bottom=40)))
    double = planned(fielded, "wren-6", pins=read_pins({"picture.fields": "double"})).settings
    assert double and double.video
    assert (double.video.fields, double.video.frame_rate) == (Fields.DOUBLE, Fraction(60000, 1001))
    left = planned(fielded, "wren-6", pins=read_pins({"picture.fields": "leave"}))
    assert [breach.rule for breach in left.breaches] == ["scan"]
    slower = read_pins({"picture.preset": "slower"})
    presets = [planned(film, "wren-6", balance=balance, pins=slower).settings for balance in Balance]
    assert {made.video.preset for made in presets if made and made.video} == {"slower"}


@pytest.mark.parametrize("old", sorted(CALLED_NOW))
def test_pins_by_the_names_of_older_versions_mean_what_they_meant(old: str) -> None:
    today = CALLED_NOW[old]
    assert today in DECISIONS and old not in DECISIONS
    value = VALUES[today][-1] if today in VALUES else "slow"
    assert read_pins({old: value}).said == read_pins({today: value}).said == {today: value}
    assert read_pins({old: value, today: None}).said == {}
    assert read_pins({today: value, old: "auto"}).said == {}


def test_filling_a_screen_is_offered_only_where_one_is_known(film_disc: Source) -> None:
    tablet, pins = device("heron-8"), read_pins({"picture.codec": "h264"})
    for profile, ways in ((tablet, ["fit", "fill", "stretch"]), (tablet.model_copy(update={"screen": None}), [])):
        made = plan(PlanRequest(title=film_disc.titles[0], devices=(profile,), name="Film", pins=pins))
        shown = {decision.key: decision for decision in made.decisions}["picture.screen_fit"]
        assert (shown.value, [choice.value for choice in shown.choices]) == ("fit", ways)
