from __future__ import annotations

import shutil
import time
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.instruments.engine import output_of

from rheon.core.checking import CheckRequest, check, check_file
from rheon.core.checking.boxes import index_in_front
from rheon.core.checking.buffer import least_rate_bps
from rheon.core.commands.probing import decode
from rheon.core.engine import steered
from rheon.core.errors import EngineTimedOut, Stopped
from rheon.core.wording import fact_text
from rheon.demo.models import device


def failing(path: Path, name: str) -> dict[str, str]:
    (check,) = check_file(CheckRequest(path=path, profiles=[device(name)]))
    return {rule.rule: fact_text(rule.measured, raw=True) for rule in check.results if not rule.ok}


def test_a_file_that_fits_keeps_every_rule(media: Path) -> None:
    assert failing(media / "camera" / "Kite day.mp4", "wren-6") == {}


def test_a_file_that_does_not_fit_breaks_the_rules_it_should(media: Path) -> None:
    assert failing(media / "camera" / "Kite day.mp4", "sanderling-2") == {
        "profile": "high",
        "level": "3.1",
        "picture": "1280×720",
        "reference_frames": "4",
    }
    assert failing(media / "camera" / "launch of the ferry.avi", "heron-8") == {
        "container": "avi",
        "extension": "avi",
        "video_codec": "mjpeg",
        "audio_codec": "pcm_s16le",
    }


def test_for_several_devices_a_file_is_read_once_and_judged_for_each(
    media: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, names = media / "camera" / "Kite day.mp4", ("wren-6", "sanderling-2", "heron-8")
    alone = [check_file(CheckRequest(path=path, profiles=[device(name)]))[0] for name in names]
    decoded: list[str] = []

    def noted(name: str) -> list[str]:
        decoded.append(name)
        return decode(name)

    monkeypatch.setattr("rheon.core.checking.check.decode", noted)
    together = check_file(CheckRequest(path=path, profiles=[device(name) for name in names]))
    assert list(together) == alone and decoded == [str(path)]
    assert [check.ok for check in together] == [True, False, True]


def test_a_check_that_hangs_is_given_up_and_one_that_is_paused_is_not(
    media: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(check, "SILENT_S", 0.5)
    script = "echo frame=1; sleep 0.3; echo frame=2; sleep {}; echo frame=3"
    request = CheckRequest(path=media / "camera" / "Kite day.mp4", profiles=[device("wren-6")])
    monkeypatch.setattr(check, "decode", lambda path: ["sh", "-c", script.format(30)])
    with pytest.raises(EngineTimedOut, match="Nothing more could be read"):
        check_file(request)
    monkeypatch.setattr(check, "decode", lambda path: ["sh", "-c", script.format(0.3)])
    stands_until_s = time.monotonic() + 2.0
    check_file(replace(request, is_paused=lambda: time.monotonic() < stands_until_s))
    assert time.monotonic() > stands_until_s
    # whoever steers the work is heard here too
    with steered(should_stop=lambda: True, is_paused=lambda: False), pytest.raises(Stopped):
        check_file(request)


def test_an_index_at_the_end_is_noticed(media: Path, tmp_path: Path) -> None:
    front = media / "camera" / "Kite day.mp4"
    back = tmp_path / "back.mp4"
    output_of(["ffmpeg", "-v", "error", "-i", str(front), "-c", "copy", str(back)])
    assert [index_in_front(front), index_in_front(back), index_in_front(media / "LANTERN_STREET_S1.iso")] == [
        True,
        False,
        None,
    ]
    assert failing(back, "wren-6") == {"index": "at the end"}


def test_damage_inside_a_file_is_found_by_decoding_it(media: Path, tmp_path: Path) -> None:
    damaged = tmp_path / "damaged.mp4"
    shutil.copy(media / "camera" / "Kite day.mp4", damaged)
    with damaged.open("r+b") as handle:
        for at in range(200_000, 400_000, 9_000):
            handle.seek(at)
            handle.write(b"\xff" * 600)
    assert "read_through" in failing(damaged, "wren-6")


@given(st.lists(st.integers(1, 60_000), min_size=2, max_size=80), st.integers(100_000, 4_000_000))
def test_the_least_rate_feeds_the_buffer_and_is_never_below_the_mean(sizes: list[int], buffer_bits: int) -> None:
    packets = [(index / 25, size) for index, size in enumerate(sizes)]
    rate = least_rate_bps(packets, buffer_bits)
    assert rate >= sum(sizes) * 8 / packets[-1][0] * 0.99
    fill, before = float(buffer_bits), 0.0
    for at, size in packets:
        fill = min(buffer_bits, fill + (at - before) * rate * 1.001) - min(size * 8, buffer_bits)
        before = at
        assert fill >= -1


@pytest.mark.parametrize("packets", [[], [(0.0, 10)], [(0.0, 10), (0.0, 10)]])
def test_too_few_packets_have_no_rate(packets: list[tuple[float, int]]) -> None:
    assert least_rate_bps(packets, 1000) == 0
