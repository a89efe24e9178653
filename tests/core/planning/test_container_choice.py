"""Which container a file gets, and what it is called."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rheon.core.devices import Limits, Verdict
from rheon.core.errors import PlanError
from rheon.core.media import Source
from rheon.core.planning import Action, Plan, PlanRequest, plan, read_pins
from rheon.demo.models import device


def planned(source: Source, name: str, **pins: str) -> Plan:
    request = PlanRequest(
        title=source.titles[0],
        devices=(device(name),),
        name="Marram Nights",
        languages=("en",),
        pins=read_pins({key.replace("_", "."): value for key, value in pins.items()}),
    )
    return plan(request)


@pytest.mark.parametrize(
    ("name", "file_name", "picture", "sound"),
    [
        ("sanderling-2", "Marram Nights.m4v", Action.ENCODE, Action.ENCODE),
        ("gannet-43", "Marram Nights.mkv", Action.ENCODE, Action.COPY),
        ("cormorant-box", "Marram Nights.mkv", Action.COPY, Action.COPY),
        ("plover-dash", "Marram Nights.avi", Action.ENCODE, Action.ENCODE),
        ("sound-only", "Marram Nights.mp3", None, Action.ENCODE),
    ],
)
def test_the_container_that_leaves_most_untouched_is_taken(
    film_disc: Source, name: str, file_name: str, picture: Action | None, sound: Action
) -> None:
    made = planned(film_disc, name).settings
    assert made and made.audio
    assert made.file_name == file_name
    assert (made.video.action if made.video else None, made.audio[0].action) == (picture, sound)


def test_a_file_over_the_limit_is_not_just_copied(film_disc: Source) -> None:
    small = device("cormorant-box").model_copy(update={"limits": Limits(max_file_bytes=20_000_000)})
    made = plan(PlanRequest(title=film_disc.titles[0], devices=(small,), name="x", languages=("en",)))
    assert made.treatment is Verdict.CONVERT
    assert made.settings and made.settings.video and made.settings.video.peak_bps
    assert made.settings.video.action is Action.ENCODE
    assert made.settings.video.peak_bps * film_disc.titles[0].duration_s / 8 < 20_000_000


def test_drawing_in_or_shrinking_means_encoding_even_where_a_copy_would_do(film_disc: Source) -> None:
    for pins in (
        {"subtitles_track": "0", "subtitles_form": "drawn"},
        {"picture.size": "240"},
        {"picture_codec": "mpeg4"},
    ):
        made = planned(film_disc, "cormorant-box", **pins).settings
        assert made and made.video
        assert made.video.action is Action.ENCODE


def test_without_sound_the_picture_stays_and_without_both_nothing_is_made(film_disc: Source) -> None:
    silent = planned(film_disc, "heron-8", sound_track="none").settings
    assert silent is not None
    assert silent.audio == ()
    with pytest.raises(PlanError, match="neither picture nor sound"):
        planned(film_disc, "sound-only", sound_track="none")


def test_a_title_with_a_fault_can_t_be_planned(film_disc: Source) -> None:
    faulty = replace(film_disc, titles=(replace(film_disc.titles[0], fault="scrambled"),))
    made = planned(faulty, "heron-8")
    assert (made.treatment, made.reason.code, made.settings) == (Verdict.CANNOT, "title_scrambled", None)


@pytest.mark.parametrize(
    ("pins", "file_name", "broken"),
    [
        ({"file.container": "matroska"}, "Marram Nights.mkv", {"container", "extension"}),
        ({"file.container": "mp4:m4v"}, "Marram Nights.m4v", {"extension"}),
        ({"picture.codec": "mpeg2video"}, "Marram Nights.mkv", {"container", "extension", "video_codec"}),
        ({"sound.codec": "vorbis"}, "Marram Nights.mkv", {"container", "extension", "audio_codec"}),
        ({"picture.codec": "wmv2", "sound.codec": "wmav2"}, "Marram Nights.mkv", None),
        ({"file.container": "asf"}, "Marram Nights.wmv", {"container", "extension", "video_codec", "audio_codec"}),
    ],
)
def test_what_is_set_by_hand_finds_a_container_and_says_what_it_breaks(
    film_disc: Source, pins: dict[str, str], file_name: str, broken: set[str] | None
) -> None:
    made = planned(film_disc, "heron-8", **pins)
    assert made.settings and made.settings.file_name == file_name
    if broken is not None:
        assert {breach.rule for breach in made.breaches} == broken


def test_the_device_s_own_container_is_kept_where_it_can_be(film_disc: Source) -> None:
    made = planned(film_disc, "heron-8", **{"picture.codec": "hevc"}).settings
    assert made and made.container == "mp4"


def test_a_picture_by_hand_as_it_is_goes_where_it_is_held(film_disc: Source) -> None:
    made = planned(film_disc, "heron-8", **{"picture.codec": "copy", "file.container": "mpeg_ps"})
    assert made.settings and made.settings.video
    assert made.settings.video.action is Action.COPY
    assert "video_codec" in {breach.rule for breach in made.breaches}
