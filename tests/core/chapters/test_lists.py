"""Lists of chapters in the forms in which people have them."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.chapters import MOST_CHAPTERS, by_pattern, placed, plain, read_list
from rheon.core.errors import BadChapters, BadPattern
from rheon.core.media import Chapter, Tags

WANTED = [(0.0, "Low water"), (95.5, "The weir = high; #2"), (3723.25, "Ende – 終わり")]
PAIRS = """CHAPTER01=00:00:00.000
CHAPTER01NAME=Low water
CHAPTER02=00:01:35.500
CHAPTER02NAME=The weir = high; #2
CHAPTER03=01:02:03.250
CHAPTER03NAME=Ende – 終わり
"""
CUE = """REM GENRE Talk
TITLE "Not a chapter"
FILE "talk.wav" WAVE
  TRACK 01 AUDIO
    TITLE "Low water"
    INDEX 01 00:00:00
  TRACK 02 AUDIO
    TITLE "The weir = high; #2"
    INDEX 00 01:33:00
    INDEX 01 01:35:37
  TRACK 03 AUDIO
    TITLE "Ende – 終わり"
    INDEX 01 62:03:19
"""
FFMETADATA = """;FFMETADATA1
title=Not a chapter
[CHAPTER]
TIMEBASE=1/1000
START=0
END=95500
title=Low water
[CHAPTER]
TIMEBASE=1/90000
START=8595000
END=335092500
title=The weir \\= high\\; \\#2
[CHAPTER]
START=3723250000000
END=3800000000000
title=Ende – 終わり
[STREAM]
title=Not a chapter either
"""
MATROSKA = """<?xml version="1.0" encoding="UTF-8"?>
<!-- <!DOCTYPE Chapters SYSTEM "matroskachapters.dtd"> -->
<Chapters>
  <EditionEntry><ChapterAtom><ChapterTimeStart>00:00:09.0</ChapterTimeStart></ChapterAtom></EditionEntry>
  <EditionEntry>
    <EditionFlagDefault>1</EditionFlagDefault>
    <ChapterAtom><ChapterTimeStart>00:00:00.000000000</ChapterTimeStart>
      <ChapterDisplay><ChapterString>Low water</ChapterString><ChapterLanguage>eng</ChapterLanguage></ChapterDisplay>
      <ChapterAtom><ChapterTimeStart>00:00:05.0</ChapterTimeStart></ChapterAtom>
    </ChapterAtom>
    <ChapterAtom><ChapterTimeStart>00:01:35.500000000</ChapterTimeStart>
      <ChapterDisplay><ChapterString>The weir = high; #2</ChapterString></ChapterDisplay></ChapterAtom>
    <ChapterAtom><ChapterTimeStart>00:10:00.0</ChapterTimeStart><ChapterFlagHidden>1</ChapterFlagHidden></ChapterAtom>
    <ChapterAtom><ChapterTimeStart>01:02:03.250000000</ChapterTimeStart>
      <ChapterDisplay><ChapterString>Ende – 終わり</ChapterString></ChapterDisplay></ChapterAtom>
  </EditionEntry>
</Chapters>
"""
WEBVTT = """WEBVTT

00:00.000 --> 01:35.500
Low water

2
00:01:35.500 --> 01:02:03.250 line:0
The weir = high; #2

01:02:03.250 --> 01:03:00.000
Ende – 終わり
"""
FFPROBE = json.dumps(
    {"chapters": [
        {"id": place, "time_base": "1/1000", "start": round(start_s * 1000), "start_time": f"{start_s:.6f}",
         "tags": {"title": name}}
        for place, (start_s, name) in enumerate(WANTED)
    ]}
)  # fmt: skip
OBJECTS = json.dumps([{"start_s": start_s, "name": name} for start_s, name in WANTED])
BEFORE = "1. 0:00 Low water\n\n2. 1:35.5 - The weir = high; #2\n3. [1:02:03.25] Ende – 終わり\n"
BEHIND = "Low water (0:00:00)\r\nThe weir = high; #2\t0:01:35.5\r\nEnde – 終わり – 1:02:03.25"
AFTER = "00:00 01 - Low water\n01:35.5 02 - The weir = high; #2\n01:02:03.25 03 - Ende – 終わり"


@pytest.mark.parametrize(
    "text", [PAIRS, CUE, FFMETADATA, MATROSKA, WEBVTT, FFPROBE, OBJECTS, BEFORE, BEHIND, AFTER, "\ufeff" + PAIRS]
)
def test_each_form_gives_the_same_chapters(text: str) -> None:
    found = read_list(text)
    assert [one.name for one in found.entries] == [name for _, name in WANTED]
    assert [one.start_s for one in found.entries] == pytest.approx([start_s for start_s, _ in WANTED], abs=0.01)


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("Low water\nThe weir\n", ["Low water", "The weir"]),
        ("1) Low water\n2) The weir", ["Low water", "The weir"]),
        ("Chapter 1: Low water\nChapter 2: The weir", ["Low water", "The weir"]),
        ("- Low water\n- The weir", ["Low water", "The weir"]),
        # numbers that do not count belong to the names
        ("39. Breitengrad\nThe weir", ["39. Breitengrad", "The weir"]),
        ("12 o'clock\n1999", ["12 o'clock", "1999"]),
        ('["Low water", "The weir"]', ["Low water", "The weir"]),
        ("[sic] Low water\nThe weir", ["[sic] Low water", "The weir"]),
    ],
)
def test_names_alone_have_no_moments(text: str, names: list[str]) -> None:
    found = read_list(text)
    assert [(one.name, one.start_s) for one in found.entries] == [(name, None) for name in names]


@pytest.mark.parametrize(
    ("text", "told"),
    [
        (" \n", "no chapter"),
        ("0:00 Low water\nThe weir", "Chapter 2"),
        ("CHAPTER01=00:61:00\n", "no moment"),
        ("CHAPTER01=00:00:01\nnonsense", "no line"),
        (";FFMETADATA1\n[CHAPTER]\nSTART=x\n", "START"),
        (";FFMETADATA1\n[CHAPTER]\nTIMEBASE=1/0\nSTART=1\n", "START"),
        ("TRACK 01 AUDIO\nINDEX 01 00:00:90", "no moment"),
        ("<Chapters><EditionEntry>", "can't be read"),
        ("<html/>", "no list of chapters"),
        ('<!DOCTYPE x [<!ENTITY a "b">]><Chapters>&a;</Chapters>', "can't be read"),
        ('<!DOCTYPE x SYSTEM "file:///etc/hostname"><Chapters/>', "no chapter"),
        ('{"a": 1}', "no JSON"),
        ('{"chapters": [{"start_s": NaN}]}', "no moment"),
        ('{"chapters":' + "[" * 100_000, "no JSON"),
        ("x\n" * (MOST_CHAPTERS + 1), "the most"),
    ],
)
def test_what_is_no_list_is_refused_in_a_sentence(text: str, told: str) -> None:
    with pytest.raises(BadChapters, match=told):
        read_list(text)


@given(st.one_of(st.text(max_size=200), st.lists(st.sampled_from(PAIRS.split() + CUE.split("\n") + BEFORE.split("\n")))
                 .map("\n".join)))  # fmt: skip
def test_any_text_is_chapters_or_a_sentence(text: str) -> None:
    try:
        made = placed(read_list(text), (), 4000.0)
    except BadChapters:
        return
    starts = [chapter.start_s for chapter in made.chapters]
    assert starts == sorted(set(starts)) and all(0 <= start < 4000 for start in starts)
    assert [chapter.number for chapter in made.chapters] == list(range(1, len(starts) + 1))


OWN = tuple(Chapter(number=number, start_s=100.0 * number - 100, name=f"Old {number}") for number in (1, 2, 3))


def test_names_go_onto_the_chapters_in_their_order_and_what_is_over_is_told() -> None:
    two = placed(read_list("New\nOther"), OWN, 300)
    assert [(chapter.start_s, chapter.name) for chapter in two.chapters] == [(0, "New"), (100, "Other"), (200, "Old 3")]
    assert [reason.code for reason in two.told] == ["chapters_more_than_names"]
    four = placed(read_list("a\nb\nc\nd"), OWN, 300)
    assert [chapter.name for chapter in four.chapters] == ["a", "b", "c"]
    assert [reason.code for reason in four.told] == ["chapters_fewer_than_names"]
    assert not placed(read_list("a\nb\nc"), OWN, 300).told


def test_moments_take_the_place_of_the_title_s_own_and_what_lies_behind_its_end_is_told() -> None:
    made = placed(read_list(f"0:00 a\n1:00 b\n1:00.05 c\n9:00 d\n4:00 {'e' * 300}"), OWN, 300)
    assert [(chapter.start_s, chapter.name) for chapter in made.chapters[:2]] == [(0, "a"), (60, "b")]
    assert made.chapters[2].name == "e" * 252 + "…" and len(made.chapters) == 3
    assert [reason.code for reason in made.told] == [
        "chapters_behind_end", "chapters_at_once", "chapter_names_shortened",
    ]  # fmt: skip


def test_a_list_of_which_nothing_comes_is_refused() -> None:
    for text, chapters, told in (("a\nb", (), "no chapters to be named"), ("9:00 a", OWN, "behind the title's end")):
        with pytest.raises(BadChapters, match=told):
            placed(read_list(text), chapters, 300)


def test_a_pattern_calls_each_chapter_by_its_number() -> None:
    tags = Tags(title="Slack Water", show="Tide Watch")
    assert [one.name for one in by_pattern("{{ show }}, {{ number }}", OWN, tags)] == [
        "Tide Watch, 1", "Tide Watch, 2", "Tide Watch, 3",
    ]  # fmt: skip
    with pytest.raises(BadPattern, match="no “chapter”"):
        by_pattern("{{ chapter }}", OWN, tags)
    assert plain([(5.0, ""), (0.0, " x")])[0].start_s == 0.0
