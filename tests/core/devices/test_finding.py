"""What people say of a device finds its kind, with few questions."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import QUESTIONS, DeviceKind, Generation, careful, families, find, hear
from rheon.core.devices.finder import MOST_QUESTIONS, Answers

THIS_YEAR = 2026

SITUATIONS = [
    ("a seven-year-old tablet", "tablet-2017"),
    ("tablet, about 2015, small screen", "tablet-small-2013"),
    ("a TV from 2011 whose USB socket takes a stick", "tv-2010"),
    ("the children's pocket player", "pocket-2009"),
    ("a car screen that reads cards, 2012", "car-2008"),
    ("my new phone", "phone-2024"),
    ("phone 2013", "phone-2012"),
    ("grandma's old phone with keys", "phone-keys"),
    ("4K telly, about eight years old", "tv-4k-2017"),
    ("small kitchen tv, hd ready", "tv-small-2010"),
    ("smart tv full hd 2019", "tv-2016"),
    ("dvd player with a usb socket", "dvd-player"),
    ("blu-ray player 2013", "bluray-2012"),
    ("streaming stick 4k from 2018", "stick-4k-2017"),
    ("media player box 2012", "box-2010"),
    ("laptop, ten years old", "computer-2013"),
    ("games console under the tv 2015", "console-2013"),
    ("digital picture frame with wifi", "frame-2015"),
    ("pocket projector", "projector-small"),
    ("back seat screens in the car 2014", "seat-2008"),
    ("car radio with a usb stick", "sound-car"),
    ("a large tablet for the back seat, 2014", "tablet-2013"),
    ("portable dvd player 2010", "seat-2008"),
    ("tv stick", "stick-4k-2017"),
    ("a laptop from last year", "computer-2019"),
    ("game console 2020", "console-2020"),
    ("seat screens 2018", "seat-2016"),
    ("projector with usb 2016", "projector-2014"),
    ("kids' tabelt with a rubber case", "tablet-children"),
    ("a page on the web that everybody can watch", "web-browser"),
]


@pytest.mark.parametrize(("typed", "wanted"), SITUATIONS)
def test_a_sentence_finds_the_kind_with_three_questions_at_most(typed: str, wanted: str) -> None:
    heard = hear(typed, THIS_YEAR)
    assert heard.found[0].profile.id == wanted
    assert len(heard.found[0].questions) <= MOST_QUESTIONS


def test_experts_find_a_standard_s_point_and_nonsense_finds_nothing() -> None:
    assert hear("h.264 level 4.1", THIS_YEAR).standards[0].id == "h264-high-41"
    assert [profile.id for profile in hear("av1", THIS_YEAR).standards] == ["av1-main-40"]
    for nothing in ("", "   ", "xyzzy", "fridge", "e-reader", "ünïcödé 🎞", "((((", "a" * 200):
        heard = hear(nothing, THIS_YEAR)
        assert (heard.found, heard.standards) == ((), ())


@given(
    st.text(max_size=80),
    st.none() | st.sampled_from(list(DeviceKind)),
    st.dictionaries(st.sampled_from(sorted(QUESTIONS)), st.none() | st.booleans()),
)
def test_anything_can_be_typed_and_said(typed: str, kind: DeviceKind | None, said: dict[str, bool | None]) -> None:
    for found in hear(typed, THIS_YEAR, Answers(kind=kind, said=said)).found:
        assert len(found.questions) <= MOST_QUESTIONS


GENERATIONS = [one for family in families().values() for one in family.generations]


@pytest.mark.parametrize("one", GENERATIONS, ids=lambda one: one.profile.id)
def test_who_answers_truly_gets_to_each_kind(one: Generation) -> None:
    """Beside what it is and how old: one question or two that tell its siblings apart."""
    own = [
        span
        for span in families()[one.profile.kind].ages
        if span.year >= one.since and (one.until is None or span.year <= one.until)
    ]
    asked = []
    for span in own:
        said: dict[str, bool | None] = {}
        found = find(Answers(kind=one.profile.kind, year=span.year), THIS_YEAR)
        telling = 0
        while found and found.profile.id != one.profile.id:
            question = next((name for name in found.questions if name not in said and name in one.traits), None)
            if question is None:
                break
            said[question] = one.traits[question]
            telling += 1
            found = find(Answers(kind=one.profile.kind, year=span.year, said=said), THIS_YEAR)
        if found and found.profile.id == one.profile.id:
            asked.append(telling)
    assert asked and min(asked) <= 2


@given(st.data())
def test_less_said_never_promises_more(data: st.DataObject) -> None:
    """Whoever does not know an answer gets a kind that fits, and no special make unasked."""
    kind = data.draw(st.sampled_from(list(families())))
    said = data.draw(st.dictionaries(st.sampled_from(sorted(QUESTIONS)), st.none(), max_size=4))
    year = data.draw(st.none() | st.integers(1995, 2030))
    found = find(Answers(kind=kind, year=year, said=said), THIS_YEAR)
    assert found is not None
    assert not set(found.questions) & set(said)
    all_of_kind = {one.profile.id for one in families()[kind].generations}
    assert {found.profile.id, *(other.id for other in found.others)} <= all_of_kind
    assert careful(found.profile).audio
