"""Chapter names in what is made, read back by another reader."""

from __future__ import annotations

import json
import subprocess
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from tests.core.delivery.test_whole import order, titled
from tests.instruments.authored import Pictures
from tests.instruments.authored import plain as authored
from tests.instruments.sources import AAC, H264
from tests.thorough import always

from rheon.core.chapters import plain
from rheon.core.delivery import convert
from rheon.core.media import Chapter

SOUNDS = ("sound-as-mp3", "sound-as-flac", "sound-as-opus", "sound-as-aac")
NAMES = (
    "Low water",
    "終わり・潮の満ち引き",
    "الجزر والمد",
    "Ebb = flood; #3 \\ “tide”",
    "🌊 x",
    "é" * 127,
    "満" * 85,
    "Neaps",
)


def read(path: Path) -> list[tuple[float, str]]:
    argv = ["ffprobe", "-v", "error", "-show_chapters", "-of", "json", str(path)]
    said = json.loads(subprocess.run(argv, check=True, capture_output=True).stdout)["chapters"]
    return [(round(float(one["start_time"]), 2), one.get("tags", {}).get("title", "")) for one in said]


@pytest.mark.parametrize(
    "device_id",
    always(
        ("faithful-copy", "for-the-web", "sound-as-mp3"),
        of=("faithful-copy", "for-the-web", "for-the-open-web", *SOUNDS),
    ),
)
def test_every_name_is_read_back_as_it_was_given(device_id: str, tmp_path: Path) -> None:
    path = authored(tmp_path / "film.mkv", Pictures(count=225, rate=Fraction(25), size=(160, 120)), (*H264, *AAC))
    wanted = [(float(place), name) for place, name in enumerate(NAMES)]
    title = replace(titled(path), chapters=plain(wanted))
    if device_id == "sound-as-mp3":
        wanted[5:7] = [(5.0, "é" * 61 + "…"), (6.0, "満" * 40 + "…")]
    assert read(convert(order(title, tmp_path, device_id)).path) == wanted


def test_a_name_that_no_list_holds_is_cut_between_signs(tmp_path: Path) -> None:
    path = authored(tmp_path / "film.mkv", Pictures(count=50, rate=Fraction(25), size=(160, 120)), (*H264, *AAC))
    title = replace(titled(path), chapters=(Chapter(number=1, start_s=0.0, name="満" * 200),))
    assert read(convert(order(title, tmp_path, "for-the-web")).path) == [(0.0, "満" * 84 + "…")]
