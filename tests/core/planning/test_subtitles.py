"""Subtitles: least work first, the form by hand, and what can't be carried."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.errors import BadPin
from rheon.core.media import AudioStream, Forced, Source, SubtitleStream, Title
from rheon.core.planning import Action, OutputSettings, Plan, PlanRequest, SubtitleForm, SubtitleWish, plan, read_pins
from rheon.demo.models import device


def sub(
    index: int, language: str = "en", kind: str = "dvd_subtitle", forced: Forced = Forced.UNKNOWN
) -> SubtitleStream:
    return SubtitleStream(index=index, format=kind, language=language, forced=forced, stream_id=0x20 + index)


def foreign(title: Title, *tracks: SubtitleStream) -> Title:
    """The title with sound that nobody in the household follows."""
    sound = AudioStream(index=0, codec="ac3", channels=2, sample_rate=48000, language="ja", stream_id=0x80)
    return replace(title, audio=(sound,), subtitles=tracks)


def planned(title: Title, name: str, wish: SubtitleWish = SubtitleWish.NEEDED, **pins: str) -> Plan:
    set_by_hand = read_pins({key.replace("_", "."): value for key, value in pins.items()})
    return plan(
        PlanRequest(title=title, devices=(device(name),), name="x", languages=("en",), subtitles=wish, pins=set_by_hand)
    )


def made(title: Title, name: str, wish: SubtitleWish = SubtitleWish.NEEDED, **pins: str) -> OutputSettings:
    settings = planned(title, name, wish, **pins).settings
    assert settings
    return settings


@pytest.fixture
def film(film_disc: Source) -> Title:
    return film_disc.titles[0]


def test_a_picture_that_may_stay_is_not_encoded_for_its_subtitles(film: Title) -> None:
    kept = made(foreign(film, sub(0)), "cormorant-box")
    assert kept.video and kept.video.action is Action.COPY
    assert [(subtitle.form, subtitle.format) for subtitle in kept.subtitles] == [(SubtitleForm.TRACK, "dvd_subtitle")]


def test_where_the_picture_is_encoded_anyway_they_are_drawn_for_every_player(film: Title) -> None:
    drawn = made(foreign(film, sub(0)), "heron-8")
    assert drawn.video and drawn.video.action is Action.ENCODE
    assert drawn.drawn and drawn.drawn.track == 0


def test_the_form_by_hand_decides(film: Title) -> None:
    title = foreign(film, sub(0))
    drawn = made(title, "cormorant-box", subtitles_form="drawn")
    assert drawn.video and drawn.video.action is Action.ENCODE
    track = made(title, "wren-6", subtitles_form="track", file_container="matroska")
    assert [subtitle.form for subtitle in track.subtitles] == [SubtitleForm.TRACK]


@pytest.mark.parametrize(
    ("pins", "clause"),
    [
        ({"subtitles_form": "track", "file_container": "mp4"}, "MP4 can't hold|can't carry subtitle pictures"),
        ({"subtitles_form": "file"}, "can't become a text file"),
        ({"subtitles_track": "0,1", "subtitles_form": "drawn"}, "Only one subtitle track"),
        ({"subtitles_track": "0;1"}, "no subtitle track"),
        ({"subtitles_form": "sung"}, "form of subtitles"),
    ],
)
def test_a_form_that_can_t_be_made_is_refused(film: Title, pins: dict[str, str], clause: str) -> None:
    with pytest.raises(BadPin, match=clause):
        planned(foreign(film, sub(0), sub(1, "es")), "heron-8", **pins)  # type: ignore[arg-type]


def test_text_takes_the_form_of_its_container(film: Title) -> None:
    title = foreign(film, sub(0, kind="ass"))
    formats = {
        container: made(title, "wren-6", subtitles_form="track", file_container=container).subtitles[0].format
        for container in ("mp4", "matroska", "webm")
    }
    assert formats == {"mp4": "mov_text", "matroska": "subrip", "webm": "webvtt"}


@given(
    st.lists(st.tuples(st.sampled_from(["en", "es", "und"]), st.sampled_from(list(Forced))), max_size=4),
    st.sampled_from(list(SubtitleWish)),
)
def test_a_wish_never_brings_subtitles_that_nobody_asked_for(
    film_disc: Source, tracks: list[tuple[str, Forced]], wish: SubtitleWish
) -> None:
    listed = tuple(sub(place, language, forced=forced) for place, (language, forced) in enumerate(tracks))
    title = replace(film_disc.titles[0], subtitles=listed)
    chosen = [listed[subtitle.track] for subtitle in made(title, "heron-8", wish).subtitles]
    assert len(chosen) <= 1
    if wish in (SubtitleWish.NEVER, SubtitleWish.NEEDED):
        assert chosen == []
    for track in chosen:
        assert track.language == "en"
        assert (
            (track.forced in (Forced.ALL, Forced.SOME))
            if wish is SubtitleWish.FORCED
            else track.forced is not Forced.ALL
        )
    if wish is SubtitleWish.FORCED and any(t.language == "en" and t.forced is Forced.ALL for t in listed):
        assert chosen[0].forced is Forced.ALL, "a track of nothing else first"


def test_sound_alone_takes_no_subtitles_along(film: Title) -> None:
    assert made(foreign(film, sub(0)), "sound-only").subtitles == ()
