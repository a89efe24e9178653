"""Profiles, the catalogue, and common ground."""

from __future__ import annotations

import json
from fractions import Fraction
from importlib import resources

import pytest

from rheon.core.devices import (
    Answers,
    DeviceKind,
    DeviceProfile,
    Verdict,
    catalogue,
    common_ground,
    device,
    judge_title,
    load_profile,
    nearest,
)
from rheon.core.devices.bounds import highest_level
from rheon.core.errors import BadProfile, NoSuchDevice, PlanError
from rheon.core.media import Source
from rheon.core.media.sentences import sentence
from rheon.core.planning import PlanRequest, plan


def test_the_catalogue_holds_every_kind_and_each_file_is_named_after_its_device() -> None:
    assert len(catalogue()) >= 60
    assert {profile.kind for profile in catalogue().values()} == set(DeviceKind) - {DeviceKind.GOAL}
    names = {path.stem for path in (resources.files("rheon.core.devices") / "profiles").iterdir()}  # type: ignore[attr-defined]
    assert names == set(catalogue())


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_every_number_of_a_profile_is_plausible(profile: DeviceProfile) -> None:
    for entry in profile.video:
        assert entry.max_width >= entry.max_height
        level = highest_level(entry, entry.profiles[-1] if entry.profiles else None)
        if level is not None:
            # a decoder's largest picture fits its level, and its bitrate is no more than the level's
            assert level.holds_picture(entry.max_width, entry.max_height, Fraction(15)), (profile.id, entry.codec)
            assert (entry.max_bitrate_bps or 0) <= level.bitrate_bps, (profile.id, entry.codec)
    if profile.year and profile.year < 2013:
        assert not {"hevc", "vp9", "av1"} & {entry.codec for entry in profile.video}
    if profile.screen and profile.video:
        assert profile.screen.width >= profile.screen.height


def test_every_device_gets_a_plan_for_the_film(film_disc: Source) -> None:
    for profile in catalogue().values():
        made = plan(PlanRequest(title=film_disc.titles[0], devices=(profile,), name="Film", languages=("en",)))
        assert made.treatment is not Verdict.CANNOT, profile.id


def test_a_bad_profile_is_refused_with_a_clause_for_each_field() -> None:
    document = device("heron-8").model_dump(mode="json")
    document["video"][0]["max_level"] = "9.9"
    document["colour"] = "red"
    del document["name"]
    with pytest.raises(BadProfile) as refused:
        load_profile(json.dumps(document))
    fields = refused.value.facts["fields"]
    assert isinstance(fields, list)
    assert {clause.partition(":")[0] for clause in fields} == {"video.0", "colour", "name"}


def test_an_unknown_device_is_refused_with_where_to_look() -> None:
    with pytest.raises(NoSuchDevice, match="rheon devices"):
        device("nobody")


def test_fat32_limits_a_file_to_four_gibibytes_minus_one() -> None:
    assert device("gannet-43").limits.largest_file_bytes == (4 << 30) - 1
    assert device("heron-8").limits.largest_file_bytes == 2_000_000_000


def test_common_ground_takes_the_tighter_bound_of_each_kind() -> None:
    both = common_ground([device("wren-6"), device("dunlin-mini")])
    entry = both.video_entries("h264")[0]
    assert (entry.profiles, entry.max_level, entry.max_height, entry.max_reference_frames) == (
        ("baseline", "main"),
        "3.1",
        720,
        3,
    )
    assert both.limits.file_system == "fat32"


def test_devices_with_nothing_in_common_are_told_so() -> None:
    with pytest.raises(PlanError, match="No one file can serve both"):
        common_ground([device("plover-dash"), device("heron-8")])


def test_verdicts_for_the_demo_discs(film_disc: Source) -> None:
    film = film_disc.titles[0]
    verdicts = {name: judge_title(film, device(name), ("en",)).verdict for name in ("heron-8", "cormorant-box")}
    assert verdicts == {"heron-8": Verdict.CONVERT, "cormorant-box": Verdict.REWRAP}


@pytest.mark.parametrize("profile", catalogue().values(), ids=lambda profile: profile.id)
def test_answers_that_describe_a_device_find_it(profile: DeviceProfile) -> None:
    answers = Answers(
        kind=profile.kind,
        year=profile.year,
        screen_width=profile.screen.width if profile.screen else None,
        screen_height=profile.screen.height if profile.screen else None,
        plays_uhd=any(entry.max_height >= 2160 for entry in profile.video),
    )
    found = nearest(answers, catalogue().values(), 3)
    mine = next((match for match in found if match.profile.id == profile.id), None)
    if profile.generic:
        return
    assert mine is not None
    assert mine.differences == ()
    assert mine.distance == 0


def test_an_unknown_device_gets_older_kin_before_newer_and_hears_what_differs() -> None:
    found = nearest(Answers(kind=DeviceKind.TABLET, year=2015, plays_uhd=False), catalogue().values())
    assert found[0].profile.id == "egret-9"
    assert all(match.profile.kind in (DeviceKind.TABLET, DeviceKind.PHONE) for match in found)
    said = [sentence(reason) for reason in found[0].differences]
    assert said == ["1 year older than yours: safe, but yours may do more"]
