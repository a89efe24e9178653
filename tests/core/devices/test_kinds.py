"""The catalogue: every kind is whole, plausible and says of each line what it rests on and how sure it is."""

from __future__ import annotations

import hashlib
import json
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import (
    QUESTIONS,
    DeviceKind,
    DeviceProfile,
    Generation,
    Ground,
    Sure,
    Verdict,
    careful,
    catalogue,
    common_ground,
    doubtful,
    families,
    judge_title,
    lines,
    load_profile,
    open_questions,
    trial,
    trial_name,
)
from rheon.core.devices.bounds import highest_level
from rheon.core.devices.catalogue import standards
from rheon.core.media import Source
from rheon.core.planning import PlanRequest, plan, read_pins
from rheon.core.wording import sentence

VERSIONS = Path(__file__).parent / "kinds.json"
GENERATIONS = [one for family in families().values() for one in family.generations]
each_kind = pytest.mark.parametrize("one", GENERATIONS, ids=lambda one: one.profile.id)


def test_there_are_kinds_of_every_family_and_they_are_told_apart() -> None:
    assert 40 <= len(GENERATIONS) <= 60
    assert set(families()) == set(DeviceKind) - {DeviceKind.GOAL}
    names = [profile.name for profile in catalogue().values()]
    assert len(names) == len(set(names)) == len(GENERATIONS) + len(standards())


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_every_line_has_a_ground_and_names_a_point_or_what_is_usual(profile: DeviceProfile) -> None:
    for line in lines(profile):
        assert line.ground is not None, line.key
        assert line.ground.note or line.ground.point, line.key
        assert line.key == "screen" or line.ground.point, line.key
        assert line.ground.rests_on in ("standard", "class")
        assert line.ground.settled_by is None or line.ground.settled_by in QUESTIONS
        assert line.sure is not Sure.PROVEN
    assert load_profile(profile.model_dump_json()) == profile


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_every_number_of_a_profile_is_plausible(profile: DeviceProfile) -> None:
    for entry in profile.video:
        assert entry.max_width >= entry.max_height
        level = highest_level(entry, entry.profiles[-1] if entry.profiles else None)
        if level is not None:
            # a decoder's largest picture fits its level, and its bitrate is no more than the level's
            assert level.holds_picture(entry.max_width, entry.max_height, Fraction(15)), (profile.id, entry.codec)
            assert (entry.max_bitrate_bps or 0) <= level.bitrate_bps, (profile.id, entry.codec)
    if profile.until and profile.until < 2013:
        assert not {"hevc", "vp9", "av1"} & {entry.codec for entry in profile.video}
    if profile.screen and profile.video:
        assert profile.screen.width >= profile.screen.height


@each_kind
def test_the_years_of_a_family_leave_no_gap_and_every_trait_is_a_question(one: Generation) -> None:
    assert one.until is None or one.since <= one.until
    assert set(one.traits) <= set(QUESTIONS)
    assert len(open_questions(one.profile)) <= 3
    assert str(one.since) in one.profile.name or one.profile.kind is DeviceKind.SOUND


@pytest.mark.parametrize("kind", families(), ids=lambda kind: kind.value)
def test_each_choice_of_years_means_a_generation_and_the_choices_follow_each_other(kind: DeviceKind) -> None:
    found = families()[kind].ages
    for before, after in pairwise(found):
        assert before.until is not None and after.since == before.until + 1
    assert found[-1].until is None
    reached = {
        one.profile.id
        for span in found
        for one in families()[kind].generations
        if one.since <= span.year and (one.until is None or span.year <= one.until)
    }
    assert reached == {one.profile.id for one in families()[kind].generations}


@each_kind
def test_what_is_sure_is_enough_for_a_plan_of_the_film(one: Generation, film_disc: Source) -> None:
    sure = careful(one.profile)
    assert all(line.sure is not Sure.DOUBTFUL for line in lines(sure))
    assert bool(sure.video) == bool(one.profile.video)
    made = plan(PlanRequest(title=film_disc.titles[0], devices=(one.profile,), name="Film", languages=("en",)))
    assert made.treatment is not Verdict.CANNOT
    if made.settings and made.settings.video and one.profile.video:
        assert made.settings.video.codec in {entry.codec for entry in sure.video}


@each_kind
def test_a_test_file_holds_the_line_that_it_tries_and_one_more_doubt_at_most(one: Generation) -> None:
    sure = careful(one.profile)
    for line in doubtful(one.profile):
        clip = trial(one.profile, line.key)
        if clip is None:
            assert line.topic in ("subtitles", "audio", "video")
            continue
        doubts = {
            "containers": clip.container not in {entry.format for entry in sure.containers},
            "video": bool(clip.video) and clip.video not in {entry.codec for entry in sure.video},
            "audio": clip.audio not in {entry.codec for entry in sure.audio},
        }
        others = [topic for topic, doubted in doubts.items() if doubted and topic != line.topic]
        assert len(others) <= 1, line.key
        assert trial_name(one.profile, line.key).startswith("Test of ")


def test_a_changed_kind_has_a_new_version() -> None:
    """``kinds.json`` beside this test says for each kind its version and a digest of what it was then."""
    kept = json.loads(VERSIONS.read_text(encoding="utf-8"))
    now = {one.profile.id: [one.profile.version, _digest(one.profile)] for one in GENERATIONS}
    unmarked = [name for name in now if name in kept and kept[name] != now[name] and kept[name][0] >= now[name][0]]
    assert not unmarked, f"these have changed: give them a higher version ({', '.join(unmarked)})"
    assert kept == now, "write the new versions down: python -m tests.core.devices.test_kinds"


def _digest(profile: DeviceProfile) -> str:
    return hashlib.sha256(profile.model_dump_json(exclude_defaults=True).encode()).hexdigest()[:16]


profiles = st.sampled_from(list(catalogue().values()))


@given(one=profiles, other=profiles)
def test_what_two_devices_share_is_within_what_each_is_sure_of(one: DeviceProfile, other: DeviceProfile) -> None:
    try:
        both = common_ground([careful(one), careful(other)])
    except Exception as error:
        assert type(error).__name__ == "PlanError"
        return
    for entry in both.video:
        for device in (careful(one), careful(other)):
            assert any(entry.max_width <= mine.max_width for mine in device.video_entries(entry.codec))
    shown = {(entry.form, entry.format) for entry in both.subtitles}
    assert shown <= {(entry.form, entry.format) for entry in careful(one).subtitles}
    assert shown <= {(entry.form, entry.format) for entry in careful(other).subtitles}


def test_a_doubt_is_told_and_not_planned_with(film_disc: Source) -> None:
    tv = next(one.profile for one in GENERATIONS if one.profile.id == "tv-4k-2014")
    film = film_disc.titles[0]
    pinned = plan(PlanRequest(title=film, devices=(tv,), name="x", pins=read_pins({"picture.codec": "av1"})))
    assert {(breach.rule, breach.unsure) for breach in pinned.breaches if breach.part == "video"} >= {
        ("video_codec", False)
    }
    phone = next(one.profile for one in GENERATIONS if one.profile.id == "phone-2015")
    doubted = plan(PlanRequest(title=film, devices=(phone,), name="x", pins=read_pins({"picture.codec": "hevc"})))
    assert [(breach.rule, breach.unsure) for breach in doubted.breaches] == [("video_codec", True)]
    made = plan(PlanRequest(title=film, devices=(phone,), name="x"))
    assert made.settings and made.settings.video and made.settings.video.codec == "h264"


def test_what_only_some_of_a_kind_play_is_converted_and_the_verdict_says_so(film_disc: Source) -> None:
    player = catalogue()["dvd-player"]
    doubt = Ground(sure=Sure.DOUBTFUL, rests_on="class")
    video = tuple(
        entry.model_copy(update={"ground": doubt}) if entry.codec == "mpeg2video" else entry for entry in player.video
    )
    judged = judge_title(film_disc.titles[0], player.model_copy(update={"video": video}), ("en",))
    assert judge_title(film_disc.titles[0], player, ("en",)).verdict is Verdict.REWRAP
    assert (judged.verdict, judged.perhaps) == (Verdict.CONVERT, Verdict.REWRAP)
    assert sentence(judged.reason).endswith("some of its kind play this too")


if __name__ == "__main__":
    document = {one.profile.id: [one.profile.version, _digest(one.profile)] for one in GENERATIONS}
    VERSIONS.write_text(json.dumps(document, indent=1) + "\n", encoding="utf-8")
