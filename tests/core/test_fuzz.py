"""A fixed number of changed inputs for every reader; ``make fuzz`` gives them many more."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.engine.probe import read_probe
from rheon.core.errors import RheonError
from tests.instruments.fuzz import GROWTH_BYTES, PROBED, Found, fuzz, media_readers, readers

JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
FIELDS = sorted({key for entry in json.loads(PROBED[0])["streams"] for key in entry})


def holds(found: Found) -> None:
    assert found.wrong == []
    assert found.growth_bytes < GROWTH_BYTES


def test_no_changed_input_gets_a_reader_out_of_its_errors(media: Path, tmp_path: Path) -> None:
    found = fuzz(readers(media, tmp_path), 2000)
    holds(found)
    # an input that is refused at once tests little: most get further
    assert all(found.read[name] > 10 for name in found.read) and sum(found.refused.values()) < 1200


def test_no_changed_media_file_gets_a_scan_out_of_its_errors(media: Path, tmp_path: Path) -> None:
    holds(fuzz(media_readers(media, tmp_path), 24))


@given(streams=st.lists(st.fixed_dictionaries({}, optional=dict.fromkeys(FIELDS, JSON)), max_size=3), rest=JSON)
def test_whatever_the_engine_says_of_a_file_is_read_or_refused(streams: list[object], rest: object) -> None:
    for document in ({"streams": streams, "format": rest}, {"streams": rest, "format": {}, "chapters": streams}):
        try:
            found = read_probe(document)
        except RheonError:
            continue
        assert all(video.width > 0 and video.height > 0 for video in found.pictures)
        assert all(0 < track.channels <= 255 for track in found.audio) and 0 <= found.duration_s < 1e7


@pytest.mark.parametrize("said", ["0/0", "1/0", "90000/1", "-1/1", "x"])
def test_a_rate_that_is_none_is_not_taken_for_one(said: str) -> None:
    document = json.loads(PROBED[0])
    document["streams"][0] |= {"r_frame_rate": said, "avg_frame_rate": said}
    video = read_probe(document).video
    assert video is not None and video.frame_rate == 25
