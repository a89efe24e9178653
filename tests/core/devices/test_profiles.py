"""Profiles, the catalogue, and common ground."""

from __future__ import annotations

import json

import pytest

from rheon.core.devices import (
    Verdict,
    common_ground,
    judge_title,
    load_profile,
)
from rheon.core.errors import BadProfile, NoSuchDevice, PlanError
from rheon.core.media import Source
from rheon.demo.models import device


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
