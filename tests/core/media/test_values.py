from __future__ import annotations

import json
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.strategies import titles

from rheon.core.media import Cell, CellData, Extent, Title, aspect_text, parse_fraction, rate_text, to_bcp47
from rheon.core.media.documents import dump, load


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


@pytest.mark.parametrize(
    ("raw", "tag"),
    [("eng", "en"), ("es", "es"), ("por-BR", "pt-BR"), ("ger", "de"), ("", "und"), ("zz9", "und"), (None, "und")],
)
def test_languages_become_bcp_47(raw: str | None, tag: str) -> None:
    assert to_bcp47(raw) == tag
