"""Kept ranges: what is said, on which pictures it falls, and what becomes of chapters."""

from __future__ import annotations

import itertools
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.errors import BadPin
from rheon.core.media import Chapter, FileData, KeptRange, Span, Title, VideoStream
from rheon.core.media.kept import in_order, kept_title, left_of, on_pictures, pieces_of
from rheon.core.planning import read_pins
from rheon.core.planning.decisions.range import KEEP
from rheon.core.planning.decisions.range.keep import kept_of, kept_value

RATES = [Fraction(24000, 1001), Fraction(25), Fraction(30000, 1001), Fraction(50), Fraction(60000, 1001)]


def film(rate: Fraction, first_s: float = 0.0, seconds: float = 100.0) -> Title:
    span = Span(start_s=first_s, end_s=seconds, packets=1, size_bytes=1)
    video = VideoStream(codec="h264", width=640, height=360, frame_rate=rate, span=span)
    chapters = tuple(Chapter(number=n + 1, start_s=n * 20.0) for n in range(5))
    data = FileData(path="film.mkv")
    return Title(
        number=1, duration_s=seconds, size_bytes=10**8, data=data, container="matroska", video=video, chapters=chapters
    )


def said(title: Title, text: str) -> tuple[KeptRange, ...]:
    stretches = read_pins({KEEP.key: text}).of(KEEP)
    assert stretches is not None
    return kept_of(title, stretches)


@given(st.sampled_from(RATES), st.floats(0, 0.2), st.integers(1, 2000), st.integers(1, 300), st.integers(-5, 5))
def test_a_moment_typed_to_the_millisecond_means_its_picture(
    rate: Fraction, first_s: float, number: int, count: int, off: int
) -> None:
    """However a picture's time was rounded on the way, it and no neighbour of it is the first."""
    title = film(rate, first_s)
    begin, end = first_s + number / float(rate), first_s + (number + count) / float(rate)
    found = on_pictures(title, KeptRange(from_s=round(begin, 3) + off / 10_000, until_s=round(end, 3)))
    assert found.from_s == pytest.approx(begin, abs=1e-6)
    assert round(found.length_s * rate) == count if found.until_s < title.duration_s else True


@given(st.lists(st.tuples(st.floats(0, 90), st.floats(0.1, 30)), min_size=1, max_size=8))
def test_what_is_kept_is_in_order_and_nothing_of_it_comes_twice(spans: list[tuple[float, float]]) -> None:
    kept = in_order(KeptRange(from_s=a, until_s=a + length) for a, length in spans)
    assert all(one.until_s < other.from_s for one, other in itertools.pairwise(kept))
    assert all(any(one.from_s <= a and a + length <= one.until_s for one in kept) for a, length in spans)


@given(titles(), st.data())
def test_any_title_is_as_long_as_its_pieces_and_its_chapters_begin_within(title: Title, data: st.DataObject) -> None:
    length = title.duration_s
    cuts = sorted(data.draw(st.lists(st.floats(0, 1), min_size=4, max_size=4, unique=True)))
    text = f"{cuts[0] * length:.3f}-{cuts[1] * length:.3f},{cuts[2] * length:.3f}-{cuts[3] * length:.3f}"
    try:
        kept = said(title, text)
    except BadPin:
        assert min(cuts[1] - cuts[0], cuts[3] - cuts[2]) * length < 0.03
        return
    made = kept_title(title, kept)
    assert made.duration_s == pytest.approx(sum(piece.duration_s for piece in pieces_of(title, kept)), abs=1e-5)
    starts = [chapter.start_s for chapter in made.chapters]
    assert starts == sorted(starts) and all(0 <= start < made.duration_s + 0.001 for start in starts)
    again = said(title, kept_value(kept)) if kept else ()
    assert [one.from_s for one in again] == pytest.approx([one.from_s for one in kept], abs=0.002)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("0:10-1:20.5", [(10.0, 80.52)]),
        ("#250-#500", [(10.0, 20.0)]),
        ("0:00:10:05-0:00:11:00", [(10.2, 11.0)]),
        ("c2-c3", [(20.0, 60.0)]),
        ("c5", [(80.0, 100.0)]),
        ("1:00-", [(60.0, 100.0)]),
        ("-0:30,20-40", [(0.0, 40.0)]),
        ("-", None),
        ("", None),
        ("c9", None),
        ("5-3", None),
        ("2:00-", None),
        ("x-y", None),
        ("nan-inf", None),
    ],
)
def test_ranges_are_said_in_moments_pictures_and_chapters(text: str, wanted: list[tuple[float, float]] | None) -> None:
    title = film(Fraction(25))
    if wanted is None:
        with pytest.raises(BadPin):
            said(title, text)
        return
    found = said(title, text)
    assert [moment for one in found for moment in (one.from_s, one.until_s)] == pytest.approx(
        [moment for pair in wanted for moment in pair]
    )


def test_all_of_a_title_is_no_range_and_a_named_chapter_goes_on_over_a_cut() -> None:
    title = film(Fraction(25))
    assert said(title, "0-100") == () == said(title, "0-50,50-")
    named = replace(title, chapters=(Chapter(number=1, start_s=0, name="Noon"), Chapter(number=2, start_s=90)))
    made = kept_title(named, said(named, "10-20,30-40,85-95"))
    assert [(chapter.number, chapter.name, chapter.start_s) for chapter in made.chapters] == [
        (1, "Noon", 0.0),
        (2, None, 25.0),
    ]


@given(st.lists(st.tuples(st.integers(0, 90), st.integers(1, 30)), max_size=6))
def test_what_is_left_and_what_is_left_out_are_all_of_a_title(out: list[tuple[int, int]]) -> None:
    gone = [KeptRange(from_s=begin, until_s=min(100, begin + length)) for begin, length in out]
    left = left_of(100.0, gone)
    for second in range(100):
        inside = any(one.from_s <= second + 0.5 < one.until_s for one in left)
        assert inside != any(one.from_s <= second + 0.5 < one.until_s for one in gone)
    assert list(left) == list(in_order(left))
