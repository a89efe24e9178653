"""Joined titles: tracks that belong together, moments in their parts, and what is common to all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import preferred_audio
from rheon.core.media import (
    AudioStream,
    Borders,
    Chapter,
    FileData,
    KeptRange,
    Purpose,
    Span,
    SubtitleStream,
    Title,
    VideoStream,
)
from rheon.core.media.documents import dump, load
from rheon.core.media.joined import part_at, places_of
from rheon.core.media.joining import PartWanted, join_titles
from rheon.core.media.kept import kept_title, pieces_of
from rheon.core.naming.names import join_name

VIDEO = VideoStream(codec="h264", width=640, height=480, frame_rate=Fraction(25), place=0)


def title(
    seconds: float, audio: Sequence[AudioStream] = (), subtitles: Sequence[SubtitleStream] = (), **more: object
) -> Title:
    made = Title(
        number=1,
        key=f"{seconds}",
        duration_s=seconds,
        size_bytes=round(seconds * 1000),
        data=FileData(path=f"/films/{seconds}.mkv"),
        container="matroska",
        video=VIDEO,
        audio=tuple(replace(track, index=place, place=place + 1) for place, track in enumerate(audio)),
        subtitles=tuple(replace(track, index=place, place=place + 9) for place, track in enumerate(subtitles)),
    )
    return replace(made, **more)  # type: ignore[arg-type]


def joined(*titles: Title) -> Title:
    return join_titles([PartWanted(title=one, name=f"Part {n}") for n, one in enumerate(titles, 1)], 7, "join")


def sound(language: str, codec: str = "ac3", channels: int = 2, purpose: Purpose = Purpose.UNKNOWN) -> AudioStream:
    return AudioStream(
        index=0,
        codec=codec,
        channels=channels,
        sample_rate=48000,
        language=language,
        purpose=purpose,
        loudness_lufs=-20,
    )


def test_tracks_of_one_language_and_purpose_are_one_track_wherever_they_stand() -> None:
    comment = sound("en", purpose=Purpose.COMMENTARY)
    one = title(60, [sound("en", channels=6), sound("es"), comment])
    other = title(30, [sound("es", "aac"), comment, sound("en"), sound("fr")])
    made = joined(one, other)
    assert [track.language for track in made.audio] == ["en", "es", "en", "fr"]
    assert [track.place for track in made.joined[0].audio] == [1, 2, 3, None]
    assert [track.place for track in made.joined[1].audio] == [3, 1, 2, 4]
    assert [[track.absent for track in part.audio] for part in made.joined] == [[False] * 3 + [True], [False] * 4]
    assert [track.absent for track in made.audio] == [False, False, False, True]
    # the most channels that a part has, so that none is lost
    assert (made.audio[0].channels, made.audio[0].loudness_lufs) == (6, -20.0)


def test_a_track_without_a_language_is_that_of_the_others_and_what_all_parts_have_is_preferred() -> None:
    made = joined(title(9, [sound("und")]), title(9, [sound("en", channels=6), sound("es")]), title(9, [sound("und")]))
    assert [(track.language, track.absent) for track in made.audio] == [("en", False), ("es", True)]
    assert [part.audio[0].absent for part in made.joined] == [False] * 3
    chosen = preferred_audio(made.audio, ("es",))
    assert chosen is not None and chosen.language == "en"
    # what a part has is heard rather than nothing
    (first,) = joined(title(9, [sound("en")]), title(9, [sound("fr")])).audio
    assert (first.language, first.absent) == ("en", False)


def test_subtitles_as_text_and_as_pictures_are_never_one_track() -> None:
    text, pictures = (SubtitleStream(index=0, format=form, language="en") for form in ("subrip", "dvd_subtitle"))
    made = joined(title(60, [], [pictures]), title(30, [], [text]))
    assert [track.format for track in made.subtitles] == ["dvd_subtitle", "subrip"]
    assert [[track.absent for track in part.subtitles] for part in made.joined] == [[False, True], [True, False]]
    assert made.joined[1].subtitles[1].in_file == 0


def test_the_picture_is_the_largest_at_the_quickest_rate_and_borders_are_those_of_all() -> None:
    small = replace(VIDEO, borders=Borders(top=60, bottom=60))
    less = replace(VIDEO, borders=Borders(top=40, bottom=70, left=2))
    large = replace(VIDEO, width=1280, height=720, frame_rate=Fraction(24))
    assert joined(title(9, video=small), title(8, video=less)).video == replace(
        VIDEO, borders=Borders(top=40, bottom=60)
    )
    seen = joined(title(9, video=small), title(8, video=large)).video
    assert seen is not None
    assert (seen.width, seen.height, seen.frame_rate, seen.borders) == (1280, 720, 25, None)


def test_a_part_is_taken_from_its_first_picture_to_the_end_of_its_last() -> None:
    span = Span(start_s=0.08, end_s=10.08, packets=250, size_bytes=1)
    (first, _) = joined(title(10.12, video=replace(VIDEO, span=span)), title(5)).joined
    assert first.duration_s == 10.0
    assert isinstance(first.data, FileData) and 0.078 < first.data.from_s < 0.08
    # what stands alone for long is kept: sound goes on after the picture
    long = replace(span, end_s=6.08, packets=150)
    assert joined(title(10.12, video=replace(VIDEO, span=long)), title(5)).joined[0].duration_s == 10.04


def test_chapters_are_named_by_the_parts_and_stored_joins_read_back() -> None:
    listed = (
        Chapter(number=1, start_s=0.2),
        Chapter(number=2, start_s=20, name="Inside"),
        Chapter(number=3, start_s=40),
    )
    made = joined(title(60, chapters=listed), title(30))
    assert [(c.number, c.start_s, c.name) for c in made.chapters] == [
        (1, 0, "Part 1"),
        (2, 20, "Inside"),
        (3, 40, None),
        (4, 60, "Part 2"),
    ]
    assert load(Title, dump(made)) == made


@given(st.lists(st.integers(1, 90), min_size=2, max_size=6), st.data())
def test_stretches_of_a_join_are_pieces_of_its_parts_as_long_as_they_are(
    lengths: list[int], data: st.DataObject
) -> None:
    made = joined(*(title(float(length)) for length in lengths))
    total = sum(lengths)
    assert made.duration_s == total
    begin = data.draw(st.integers(0, total * 25 - 2)) / 25
    end = data.draw(st.integers(round(begin * 25) + 1, total * 25)) / 25
    kept = (KeptRange(from_s=begin, until_s=end),)
    pieces = pieces_of(made, kept)
    assert abs(sum(piece.duration_s for piece in pieces) - (end - begin)) < 0.05
    assert abs(kept_title(made, kept).duration_s - (end - begin)) < 0.05
    placed = part_at(made, begin)
    assert placed in list(places_of(made.joined))
    assert placed.at_s <= begin + 1e-6 and begin < placed.end_s
    assert isinstance(pieces[0].data, FileData) and isinstance(placed.part.data, FileData)
    assert pieces[0].data.path == placed.part.data.path


def test_other_chapters_of_a_join_go_with_what_is_kept_of_it() -> None:
    made = joined(title(60), title(30))
    given = (Chapter(number=1, start_s=0.0, name="Ebb"), Chapter(number=2, start_s=50.0, name="Flood"))
    other = replace(made, chapters=given)
    assert kept_title(other, []).chapters == given
    kept = kept_title(other, [KeptRange(from_s=40.0, until_s=70.0)])
    assert [(one.start_s, one.name) for one in kept.chapters] == [(0.0, "Ebb"), (10.0, "Flood")]


def test_a_join_is_called_what_its_parts_names_have_in_common() -> None:
    assert join_name(["The Weir CD1", "The Weir CD2"]) == "The Weir"
    assert join_name(["Harbour, part 1", "Harbour, part 2", "Harbour, part 10"]) == "Harbour"
    assert join_name(["Harbour light", "Harbourmaster"]) == "Harbour light"
    assert join_name(["Kite day", "Regatta"]) == "Kite day"
