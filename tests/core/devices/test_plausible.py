"""What is odd about a profile is said where it was typed; what a device answers adds up to a profile that holds."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import (
    CLIPS,
    Clip,
    DeviceAnswers,
    DeviceProfile,
    Verdict,
    asked_profile,
    catalogue,
    goals,
    judge_title,
    oddities,
)
from rheon.core.devices.capability_probe import ClipAnswer
from rheon.core.formats import levels_of
from rheon.core.media import Source
from rheon.core.planning import PlanRequest, plan
from rheon.demo.models import device


def changed(name: str, **change: Any) -> DeviceProfile:
    """A profile of the catalogue with some of its first video entry, or of itself, changed."""
    document = device(name).model_dump(mode="json")
    for key, value in change.items():
        if key in document:
            document[key] = value
        else:
            document["video"][0][key] = value
    return DeviceProfile.model_validate(document)


@pytest.mark.parametrize(
    ("change", "field", "clause"),
    [
        ({"max_width": 3840, "max_height": 2160}, "video.0.max_level", "holds no 3840 × 2160"),
        ({"max_frame_rate": "120"}, "video.0.max_frame_rate", "not at 120 frames"),
        ({"max_bitrate_bps": 99_000_000}, "video.0.max_bitrate_bps", "allows 17.5 Mb/s"),
        ({"profiles": ["main", "splendid"]}, "video.0.profiles", "no profile splendid"),
        ({"codec": "cinemascope", "max_level": None, "profiles": []}, "video.0.codec", "no codec called cinemascope"),
        ({"screen": {"width": 800, "height": 1280}}, "screen", "higher than wide"),
        ({"containers": [{"format": "webm", "extension": "webm"}]}, "containers", "No container here"),
        (
            {"audio": [{"codec": "opus", "sample_rates": [44100]}]},
            "audio.0.sample_rates",
            "always decoded at 48 kHz",
        ),
        ({"audio": [{"codec": "shellac"}]}, "audio.0.codec", "no codec called shellac"),
        ({"limits": {"max_file_bytes": 2_000_000, "storage_bytes": 1_000_000}}, "limits.max_file_bytes", "larger than"),
    ],
)
def test_each_oddity_stands_at_its_field_with_a_sentence(change: dict[str, Any], field: str, clause: str) -> None:
    found = {entry.field: entry.text for entry in oddities(changed("heron-8", **change))}
    assert clause in found[field]
    assert found[field].endswith(".")


def test_goals_are_profiles_that_files_can_be_made_for(film_disc: Source) -> None:
    for goal in goals().values():
        assert goal.kind.value == "goal"
        assert goal.about
        made = plan(PlanRequest(title=film_disc.titles[0], devices=(goal,), name="Film", languages=("en",)))
        assert made.treatment in (Verdict.CONVERT, Verdict.REWRAP), goal.id
    assert not set(goals()) & set(catalogue())


@pytest.mark.parametrize("clip", [clip for clip in CLIPS if clip.video], ids=lambda clip: clip.id)
def test_a_sample_clip_is_inside_the_level_that_it_names(clip: Clip) -> None:
    level = levels_of(clip.video or "", clip.profile)[clip.level or ""]
    assert level.holds_picture(clip.width, clip.height, clip.rate)  # type: ignore[arg-type]
    assert clip.mime.startswith("video/")
    assert "codecs=" in clip.mime


def test_no_two_clips_are_called_alike_and_each_says_what_it_is() -> None:
    assert len({clip.id for clip in CLIPS}) == len(CLIPS)
    assert len({clip.text for clip in CLIPS}) >= len(CLIPS) - 1


ANSWERS = st.builds(
    ClipAnswer,
    id=st.sampled_from([clip.id for clip in CLIPS]),
    can_play=st.sampled_from(["", "maybe", "probably"]),
    source=st.sampled_from([None, True, False]),
    supported=st.sampled_from([None, True, False]),
    played=st.sampled_from(["yes", "no", "untried"]),
    frames=st.integers(0, 40),
    dropped=st.integers(0, 40),
)


@given(st.lists(ANSWERS, max_size=len(CLIPS), unique_by=lambda answer: answer.id), st.booleans())
def test_whatever_a_device_answers_its_profile_promises_no_more_than_it_showed(
    film_disc: Source, answers: list[ClipAnswer], touch: bool
) -> None:
    said = DeviceAnswers(width=1080, height=1920, touch=touch, clips=tuple(answers))
    taken = {a.id for a in answers if a.does or (a.played == "untried" and a.says_yes)}
    try:
        profile = asked_profile(said, "Asked")
    except ValueError:
        assert not any(clip.audio and clip.id in taken for clip in CLIPS)
        return
    assert profile.screen and profile.screen.width >= profile.screen.height
    for entry in profile.video:
        shown = [clip for clip in CLIPS if clip.video == entry.codec and clip.id in taken]
        assert entry.max_width in {clip.width for clip in shown}
        assert entry.max_level in {clip.level for clip in shown}
        assert set(entry.bit_depths) == {clip.depth for clip in shown}
    for sound in profile.audio:
        assert sound.max_channels == max(c.channels for c in CLIPS if c.audio == sound.codec and c.id in taken)
    lines = {entry.line for entry in profile.evidence}
    assert {clip.text for clip in CLIPS if clip.id in taken} <= lines
    judged = judge_title(film_disc.titles[0], profile, ("en",))
    assert judged.verdict in Verdict
