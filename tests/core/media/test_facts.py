"""Measured and allowed values: words are made of them last, and what was stored is found again."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import RuleResult
from rheon.core.media.documents import dump, load
from rheon.core.media.facts import Bound, Fact, Unit, any_of, as_fact, at_most, fact
from rheon.core.wording import fact_text

VALUES = st.integers(1, 10**9) | st.floats(0.001, 1e9) | st.text("abc", min_size=1)


@given(
    st.sampled_from(list(Unit)), st.lists(VALUES | st.text("abc", min_size=1), max_size=4), st.sampled_from(list(Bound))
)
def test_a_fact_is_the_same_after_it_was_stored(unit: Unit, values: list[float | str], bound: Bound) -> None:
    kept = Fact(unit=unit, values=tuple(values), bound=bound, slack=0.5)
    assert as_fact(json.loads(json.dumps(dump(kept)))) == kept
    rule = RuleResult(rule="length", part="file", ok=True, measured=kept, allowed=kept)
    assert load(RuleResult, json.loads(json.dumps(dump(rule)))) == rule


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
