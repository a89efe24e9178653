from __future__ import annotations

import json
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.formats import CONTAINERS, can_hold, channels_text, codec_name
from rheon.core.media import Cell, CellData, Extent, Reason, Title, aspect_text, parse_fraction, rate_text
from rheon.core.media.documents import dump, load
from rheon.core.media.facts import Unit, any_of, fact
from rheon.core.wording import duration_text, sentence, taken_text


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("30000/1001", Fraction(30000, 1001)),
        ("16:9", Fraction(16, 9)),
        ("25", Fraction(25)),
        ("0/0", None),
        ("", None),
        (None, None),
        ("N/A", None),
        ("-4/3", None),
    ],
)
def test_fractions_are_read_exactly_and_senseless_ones_not_at_all(text: str | None, value: Fraction | None) -> None:
    assert parse_fraction(text) == value


@given(st.fractions(min_value=Fraction(1, 1000), max_value=1000, max_denominator=2**32))
def test_a_rate_survives_its_text(rate: Fraction) -> None:
    assert parse_fraction(rate_text(rate)) == rate


@pytest.mark.parametrize(
    ("aspect", "text"), [("16/9", "16:9"), ("854/480", "16:9"), ("4/3", "4:3"), ("1", "1:1"), ("2.35", "2.35:1")]
)
def test_aspects_have_their_usual_names(aspect: str, text: str) -> None:
    assert aspect_text(Fraction(aspect)) == text


@pytest.mark.parametrize(
    ("seconds", "text"), [(0, "0:00"), (247, "4:07"), (3599.6, "1 h 0 min"), (5538.2, "1 h 32 min")]
)
def test_durations_read_as_people_say_them(seconds: float, text: str) -> None:
    assert duration_text(seconds) == text


def test_neighbouring_cells_are_one_run_of_bytes() -> None:
    def cell(path: str, at: int) -> Cell:
        return Cell(start_s=0, duration_s=1, extents=(Extent(path=path, offset_bytes=at, length_bytes=10),))

    data = CellData(cells=(cell("a", 0), cell("a", 10), cell("a", 30), cell("b", 40)))
    assert [(e.path, e.offset_bytes, e.length_bytes) for e in data.extents] == [
        ("a", 0, 20),
        ("a", 30, 10),
        ("b", 40, 10),
    ]


@given(titles())
def test_a_title_survives_being_stored_as_json(title: Title) -> None:
    assert load(Title, json.loads(json.dumps(dump(title)))) == title


def test_containers_hold_what_they_can() -> None:
    assert can_hold("mp4", "h264", "aac")
    assert not can_hold("mp4", "mpeg2video", "aac")
    assert not can_hold("mp3", "h264", "mp3")
    assert can_hold("mp3", None, "mp3")
    assert not can_hold("nothing", None, None)
    assert can_hold("webm", "vp9", "opus") and not can_hold("webm", "h264", "opus")
    assert {container.name for container in CONTAINERS.values()} == set(CONTAINERS)


def test_codecs_and_channels_have_names_even_where_nobody_gave_one() -> None:
    assert [codec_name(name) for name in ("mpeg2video", "ac3", "odd")] == ["MPEG-2", "AC-3", "ODD"]
    assert [channels_text(count) for count in (1, 2, 6, 4)] == ["mono", "stereo", "5.1", "4 channels"]


def test_a_reason_without_a_sentence_is_a_mistake() -> None:
    with pytest.raises(KeyError):
        sentence(Reason(code="no_such_reason"))
    sides = {"measured": fact(Unit.CODEC, "mpeg2video"), "allowed": any_of(Unit.CODEC, "hevc", "h264")}
    broken = {"rule": "video_codec", **sides}
    assert (
        sentence(Reason(code="breaks_rule", values=broken)) == "video codec is MPEG-2, the device takes HEVC or H.264"
    )


def test_titles_that_are_proposed_together_are_spoken_of_together() -> None:
    series = [Reason(code="similar_lengths", values={"count": 3}), Reason(code="own_file")]
    assert taken_text(series) == "picked: one of 3 titles of similar length: a series; a file of its own"
    assert taken_text(series, together=True) == "picked: 3 titles of similar length: a series; a file of its own"
    film = [Reason(code="longest", values={"next_s": 61.0, "chapters": 6, "audio": 1})]
    assert taken_text(film) == "taken for the film: the longest by far, next is 1:01, 6 chapters"
    assert taken_text([]) == "picked: "
