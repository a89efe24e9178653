"""Reasons, facts and lengths in words."""

from __future__ import annotations

import pytest

from rheon.core.devices import RuleResult
from rheon.core.media import Reason
from rheon.core.media.documents import load
from rheon.core.media.facts import Bound, Fact, Unit, any_of, at_most, fact
from rheon.core.wording import duration_text, fact_text, sentence, taken_text


@pytest.mark.parametrize(
    ("seconds", "text"), [(0, "0:00"), (247, "4:07"), (3599.6, "1 h 0 min"), (5538.2, "1 h 32 min")]
)
def test_durations_read_as_people_say_them(seconds: float, text: str) -> None:
    assert duration_text(seconds) == text


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


def test_what_was_stored_as_text_stays_that_text() -> None:
    old = {"rule": "bitrate", "part": "video", "ok": False, "measured": "6.0 Mb/s", "allowed": "up to 5.0 Mb/s"}
    rule = load(RuleResult, old)
    assert (fact_text(rule.measured), fact_text(rule.allowed)) == ("6.0 Mb/s", "up to 5.0 Mb/s")


@pytest.mark.parametrize(
    ("found", "said"),
    [
        (fact(Unit.BYTES, 1_500_000), "1.5 MB"),
        (at_most(Unit.BYTES, 4_294_967_295), "up to 4295 MB"),
        (any_of(Unit.CODEC, "hevc", "h264", "hevc"), "HEVC or H.264"),
        (any_of(Unit.CODEC), "none"),
        (any_of(Unit.CONTAINER, "mp4", "dvd", "strange"), "MP4 or DVD or strange"),
        (fact(Unit.THROUGH_A_BUFFER, 9_500_000, 14_000_000), "9.50 Mb/s through 14.0 Mb"),
        (fact(Unit.SOUNDS, "aac", 2, "ac3", 6), "aac, 2 channels; ac3, 6 channels"),
        (fact(Unit.SOUNDS), "no sound"),
        (fact(Unit.TRACKS, 1), "1 track"),
        (fact(Unit.DECODED, 250, 0), "250 frames, no errors"),
        (fact(Unit.DECODED, 250, 1, "torn"), "250 frames, 1 error (torn)"),
        (Fact(unit=Unit.SECONDS, values=(12.0,), bound=Bound.NEAR, slack=0.5), "12.00 s, within 0.5 s"),
        (Fact(unit=Unit.WORD, bound=Bound.ANY), "any"),
    ],
)
def test_each_unit_has_its_own_way_of_being_said(found: Fact, said: str) -> None:
    assert fact_text(found) == said


def test_programs_are_told_codecs_by_the_names_they_use() -> None:
    assert fact_text(any_of(Unit.CODEC, "mpeg2video", "h264"), raw=True) == "mpeg2video or h264"
