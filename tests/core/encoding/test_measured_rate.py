"""What stretches of a file say of all of it."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.encoding.measured_rate import Stretch, measured_rate, stretches_in
from rheon.core.engine.packets import Packets
from rheon.core.media import FileData, OutputSettings, Title, VideoStream
from rheon.core.planning import PlanRequest, plan
from rheon.demo.models import device

LONG_S = 600.0
VIDEO = VideoStream(codec="mpeg2video", width=720, height=576, frame_rate=Fraction(25))
TITLE = Title(
    number=1, duration_s=LONG_S, size_bytes=10**9, data=FileData(path="film.mkv"), container="matroska",
    video=VIDEO,
)  # fmt: skip


def made() -> OutputSettings:
    settings = plan(PlanRequest(title=TITLE, devices=(device("heron-8"),), name="film")).settings
    assert settings is not None and settings.video is not None and settings.video.quality is not None
    return settings


MADE = made()


@given(
    st.integers(100, 20_000), st.integers(0, 80_000), st.lists(st.integers(40, 120), min_size=4, max_size=8),
    st.integers(0, 5),
)  # fmt: skip
def test_a_steady_picture_is_expected_with_one_key_picture_in_each_interval(
    each: int, more: int, counts: list[int], late: int
) -> None:
    assert MADE.video is not None
    interval = MADE.video.keyframe_frames
    stretches = [Stretch(pictures=n, first_bytes=each + more, others_bytes=each * (n - 1)) for n in counts]
    found = measured_rate([(), stretches], 2, MADE)
    assert found is not None
    assert found.bps == pytest.approx((each + more / interval) * 8 * 25, rel=1e-3)
    assert found.high_bps == pytest.approx(found.bps * 1.08, rel=1e-3)
    # where one is harder, the rest of the title may be either way
    harder = replace(stretches[0], others_bytes=stretches[0].others_bytes * (2 + late))
    unsure = measured_rate([(), [harder, *stretches[1:]]], 2, MADE)
    assert unsure is not None and unsure.bps > found.bps
    assert unsure.high_bps / unsure.bps > found.high_bps / found.bps
    assert 0 < unsure.low_bps / unsure.bps < found.low_bps / found.bps


def test_of_a_file_that_was_made_whole_nothing_is_left_to_guess() -> None:
    found = measured_rate([[Stretch(pictures=100, first_bytes=50_000, others_bytes=150_000)]], 1, MADE)
    assert found is not None
    assert found.bps == 2000 * 8 * 25
    assert found.low_bps > 0.96 * found.bps
    seen = Stretch(pictures=round(LONG_S * 25 / 4) - 1, first_bytes=1000, others_bytes=10**6)
    other = replace(seen, others_bytes=3 * 10**6)
    nearly_all = measured_rate([(), [seen, other, seen, other]], 2, MADE)
    assert nearly_all is not None and nearly_all.high_bps < 1.09 * nearly_all.bps


def test_a_rate_that_is_set_and_too_few_stretches_say_nothing() -> None:
    one = Stretch(pictures=50, first_bytes=1000, others_bytes=40_000)
    assert measured_rate([(), [one] * 3], 2, MADE) is None
    assert measured_rate([[]], 1, MADE) is None
    assert measured_rate([(), [*[one] * 4, Stretch(pictures=1, first_bytes=9, others_bytes=0)]], 2, MADE) is None
    assert MADE.video is not None
    average = replace(MADE, video=replace(MADE.video, quality=None, bitrate_bps=10**6))
    assert measured_rate([(), [one] * 4], 2, average) is None


def test_packets_belong_to_the_stretch_in_which_they_are_shown() -> None:
    # stored in another order than shown, and a stretch of which nothing came out
    shown = [0.08, 0.2, 0.12, 0.16, 0.24, 0.28]
    packets = Packets(shown=shown, decoded=sorted(shown), durations=[0.04] * 6, sizes=[100, 10, 1, 2, 50, 5])
    assert stretches_in(packets, [0.16, 0.08]) == (
        Stretch(pictures=4, first_bytes=100, others_bytes=13),
        Stretch(pictures=2, first_bytes=50, others_bytes=5),
    )
    assert stretches_in(Packets(), [1.0]) == ()
    assert len(stretches_in(packets, [0.16, 0.08, 5.0])) == 2
