"""Text subtitles in the encodings and states that people have them in."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.errors import NotASource
from rheon.core.subtitles import decode_text, read_subtitles, to_subrip

SPANISH = "¿Quién anda ahí? El niño está en la orilla, mañana volverá con su señora."
GERMAN = "Die Flut wartet nicht auf uns. Wir müssen früh los, bevor die Möwen über die Dünen ziehen."
RUSSIAN = "Прилив не ждёт нас. Тогда мы уйдём раньше, чем он повернёт. Зажги лампу."
GREEK = "Η παλίρροια δεν μας περιμένει. Τότε φεύγουμε πριν γυρίσει. Άναψε το φως."
POLISH = "Przypływ na nas nie czeka. Więc wyruszymy, zanim się odwróci. Zapal światło, żeby łódź wróciła."


def subrip(*lines: tuple[str, str, str]) -> str:
    return "\n\n".join(f"{n}\n{start} --> {end}\n{text}" for n, (start, end, text) in enumerate(lines, start=1))


@pytest.mark.parametrize(
    ("text", "encoding"),
    [
        (SPANISH, "utf-8"),
        (SPANISH, "utf-8-sig"),
        (SPANISH, "utf-16"),
        (SPANISH, "utf-16-le"),
        (SPANISH, "utf-16-be"),
        (SPANISH, "cp1252"),
        (GERMAN, "cp1252"),
        (RUSSIAN, "cp1251"),
        (RUSSIAN, "koi8-r"),
        (GREEK, "cp1253"),
        (POLISH, "cp1250"),
        ("Un café, s'il vous plaît.", "cp1252"),
    ],
)
def test_the_encoding_is_found_from_the_bytes(text: str, encoding: str) -> None:
    whole = subrip(*[("00:00:01,000", "00:00:03,000", line) for line in text.split(". ")])
    assert decode_text(whole.encode(encoding))[0] == whole


def test_broken_numbers_and_overlaps_are_put_in_order() -> None:
    text = (
        "7\r\n00:00:09,000 --> 00:00:12,000\r\nlater\r\n\r\n7\r\n00:00:01,000 --> 00:00:10,000\r\n<i>first</i>\r\n\r\n"
        "x\r\n00:00:05,000 --> 00:00:04,000\r\nbackwards\r\n"
    )
    read = read_subtitles(text.encode())
    assert [(line.start_s, line.end_s, line.text) for line in read.lines] == [
        (1.0, 10.0, "first"),
        (9.0, 12.0, "later"),
    ]
    assert to_subrip(read).startswith("1\n00:00:01,000 --> 00:00:10,000\nfirst\n\n2\n")


def test_other_dialects_are_read_too() -> None:
    vtt = "WEBVTT\n\n00:01.000 --> 00:02.500\nLow water\n"
    ass = (
        "[Script Info]\nScriptType: v4.00+\n\n[V4+ Styles]\nFormat: Name\nStyle: Default\n\n[Events]\n"
        "Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
        "Dialogue: 0,0:00:01.00,0:00:02.50,Default,,0,0,0,,{\\i1}Low water\n"
    )
    for text in (vtt, ass):
        assert [(line.start_s, line.end_s, line.text) for line in read_subtitles(text.encode()).lines] == [
            (1.0, 2.5, "Low water")
        ]


@given(st.one_of(st.binary(max_size=600), st.text(max_size=300).map(str.encode)))
def test_any_bytes_are_read_or_refused(data: bytes) -> None:
    try:
        read = read_subtitles(data)
    except NotASource as refused:
        assert refused.message
    else:
        again = read_subtitles(to_subrip(read).encode())
        assert len(again.lines) <= len(read.lines)


@given(
    st.lists(
        st.tuples(
            st.integers(0, 10**7), st.integers(1, 10_000), st.from_regex(r"[A-Za-zé ]*[A-Za-zé]", fullmatch=True)
        ),
        min_size=1,
        max_size=20,
    )
)
def test_lines_survive_writing_and_reading(lines: list[tuple[int, int, str]]) -> None:
    def timecode(ms: int) -> str:
        return f"{ms // 3600000:02}:{ms // 60000 % 60:02}:{ms // 1000 % 60:02},{ms % 1000:03}"

    text = subrip(*((timecode(start), timecode(start + length), said.strip()) for start, length, said in lines))
    read = read_subtitles(text.encode())
    assert read_subtitles(to_subrip(read).encode()).lines == read.lines
