"""Pins of one title for another, and sets of pins as files."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.errors import BadPin
from rheon.core.media import AudioStream, Purpose, Source, SubtitleStream, Title
from rheon.core.planning import DECISIONS, Balance, PinSet, load_pin_set, pin_set_text, read_pins, transfer

PINS = st.fixed_dictionaries(
    {},
    optional={
        "picture.size": st.just("480"),
        "sound.gain": st.just("even"),
        "file.name": st.just("x"),
        "file.container": st.just("webm"),
    },
)


@given(titles(), titles(), PINS)
def test_all_but_a_title_s_own_pins_are_carried_as_they_are(source: Title, target: Title, pins: dict[str, str]) -> None:
    found = transfer(read_pins(pins), source, target)
    assert found.pins.said == {key: value for key, value in pins.items() if not DECISIONS[key].own}
    assert found.left == ()


@given(titles(), st.integers(0, 2))
def test_a_track_is_itself_among_its_own(title: Title, place: int) -> None:
    for key, tracks in (("sound.track", title.audio), ("subtitles.track", title.subtitles)):
        if place < len(tracks):
            itself = {key: str(place)}
            assert transfer(read_pins(itself), title, title).pins.said == itself


def sound(index: int, language: str, channels: int = 2, purpose: Purpose = Purpose.MAIN) -> AudioStream:
    return AudioStream(
        index=index, codec="ac3", channels=channels, sample_rate=48000, language=language, purpose=purpose
    )


def subtitle(index: int, language: str) -> SubtitleStream:
    return SubtitleStream(index=index, format="dvd_subtitle", language=language)


@pytest.fixture
def first(film_disc: Source) -> Title:
    tracks = (sound(0, "en", 6), sound(1, "en", 2, Purpose.COMMENTARY), sound(2, "es"))
    return replace(film_disc.titles[0], audio=tracks, subtitles=(subtitle(0, "en"), subtitle(1, "es")))


def test_tracks_are_found_by_language_purpose_and_channels(first: Title) -> None:
    shuffled = replace(
        first, audio=(sound(0, "es"), sound(1, "en", 2), sound(2, "en", 6)), subtitles=(subtitle(0, "es"),)
    )
    pins = read_pins({"sound.track": "0,2", "subtitles.track": "1"})
    assert transfer(pins, first, shuffled).pins.said == {"sound.track": "2,0", "subtitles.track": "0"}


def test_what_another_title_lacks_is_named_and_left_to_rheon(first: Title) -> None:
    bare = replace(first, audio=(sound(0, "en", 6),), subtitles=())
    found = transfer(read_pins({"sound.track": "1", "subtitles.track": "0", "picture.size": "480"}), first, bare)
    assert found.pins.said == {"picture.size": "480"}
    assert found.left == ("no track in English of this kind",) * 2
    assert transfer(read_pins({"sound.track": "none"}), first, bare).pins.said == {"sound.track": "none"}


def test_a_set_of_pins_is_the_same_after_it_was_a_file() -> None:
    kept = PinSet(name="Our usual", balance=Balance.FULL, pins={"sound.channels": "2", "picture.rate": "quality:19"})
    assert load_pin_set(pin_set_text(kept)) == kept


@pytest.mark.parametrize(
    ("change", "clause"),
    [
        ({"format": "other"}, "format: .*other"),
        ({"name": ""}, "name: "),
        ({"balance": "huge"}, "balance: "),
        ({"pins": {"file.name": "Mine"}}, "pins: .*file.name"),
        ({"pins": {"picture.taste": "good"}}, "pins: .*picture.taste"),
        ({"colour": "red"}, "colour: "),
    ],
)
def test_a_bad_set_is_refused_with_a_clause_for_each_field(change: dict[str, object], clause: str) -> None:
    document = json.loads(pin_set_text(PinSet(name="x", pins={}))) | change
    with pytest.raises(BadPin, match=clause):
        load_pin_set(json.dumps(document))
    with pytest.raises(BadPin, match="not a set of pins"):
        load_pin_set("nonsense")
