"""Every picture of the source comes out once, in its time, and its sound with it: measured by numbers and clicks."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.authored import Pictures, plain
from tests.instruments.looked import looked_over
from tests.instruments.readback import measure, see
from tests.instruments.sources import AAC, BY_NAME, FILM, H264, NTSC, Authored
from tests.thorough import thorough

from rheon.core.delivery import Order, convert
from rheon.core.media import Scan, Title
from rheon.core.media.kept import cut_times
from rheon.core.media.timing import Timing, find_timing
from rheon.core.planning import OutputSettings, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

TOGETHER_S, USUALLY_S = 0.020, 0.008


def looked_at(path: Path) -> Title:
    title = read_source(path).titles[0]
    return looked_over(title)


def delivered(title: Title, device_id: str, folder: Path, **pins: str) -> tuple[Path, OutputSettings]:
    profile = device(device_id)
    named = {key.replace("_", "."): value for key, value in pins.items()}
    wanted = plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins(named)))
    assert wanted.settings is not None
    done = convert(Order(title=title, plan=wanted, devices=[profile], folder=folder, token=uuid.uuid4().hex))
    return done.path, wanted.settings


@pytest.mark.parametrize(
    ("name", "device_id"),
    [
        ("film.mkv", "curlew-2"),  # first picture half a tick late, times in milliseconds
        thorough("film.mkv", "petrel-24"),  # AVI: no empty picture in front, the encoder's silence taken off
        ("asp.mkv", "petrel-24"),  # B pictures copied into AVI
        thorough("ntsc.mkv", "wmv-asf"),
        thorough("flash.flv", "mpeg2-main-main"),
        ("fields.mkv", "curlew-2"),  # film that carries the times of fields
        thorough("transport.ts", "petrel-24"),
    ],
)
def test_a_kept_rate_keeps_every_picture_and_its_sound(
    name: str, device_id: str, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    source = BY_NAME[name]
    path, settings = delivered(looked_at(sources(name)), device_id, tmp_path)
    found = measure(path, source.rate, range(source.pictures.count))
    assert settings.video is not None and settings.video.frame_rate == source.rate
    assert (found.lost, found.doubled, found.disordered, found.unread) == (0, 0, 0, 0)
    assert found.picture_jitter_s < 0.002
    assert found.worst_s <= TOGETHER_S
    assert abs(found.median_s - measure(sources(name), source.rate, range(1)).median_s) <= USUALLY_S
    assert found.clicks >= 2 * source.pictures.duration_s - 1


@pytest.mark.parametrize(
    ("name", "device_id", "kept"),
    [("turns.mp4", "curlew-9", True), ("screen.mkv", "petrel-24", False), thorough("turns.mp4", "curlew-2", False)],
)
def test_pictures_at_changing_distances_are_all_there(
    name: str, device_id: str, kept: bool, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    source = BY_NAME[name]
    stored = sources(name)
    wanted = set(see(stored).numbers)
    path, settings = delivered(looked_at(stored), device_id, tmp_path, picture_size="180")
    found, seen = measure(path, source.rate, range(source.pictures.count)), see(path)
    assert settings.video is not None and settings.video.variable_rate == kept
    assert settings.video.frame_rate == source.rate
    assert wanted - set(seen.numbers) == set()
    assert (found.doubled == 0) == kept
    assert found.picture_jitter_s < 0.002
    assert found.worst_s <= TOGETHER_S


def test_a_lower_rate_on_purpose_takes_pictures_evenly(sources: Callable[[str], Path], tmp_path: Path) -> None:
    source = BY_NAME["fast.mkv"]
    path, settings = delivered(looked_at(sources("fast.mkv")), "curlew-2", tmp_path)
    numbers = see(path).numbers
    assert settings.video is not None and settings.video.frame_rate == NTSC
    assert list(numbers) == list(range(0, source.pictures.count, 2))
    assert measure(path, source.rate, range(source.pictures.count)).worst_s <= TOGETHER_S


@pytest.mark.parametrize(("name", "from_s", "until_s"), [thorough("film.mkv", 3.0, 9.0), ("flash.flv", 2.03, 7.5)])
def test_a_part_of_a_file_begins_and_ends_at_its_moments(
    name: str, from_s: float, until_s: float, sources: Callable[[str], Path], tmp_path: Path
) -> None:
    source = BY_NAME[name]
    stored = sources(name)
    seen = see(stored)
    wanted = [n for n, at in zip(seen.numbers, seen.times, strict=True) if from_s <= at < until_s]
    begins = seen.times[wanted[0]] - from_s
    part = cut_times(looked_at(stored), from_s, until_s, 1)
    path, _ = delivered(part, "curlew-2", tmp_path)
    found = measure(path, source.rate, range(wanted[0], wanted[-1] + 1), first_s=from_s - measure_start(stored, source))
    numbers = list(see(path).numbers)
    # the end is exact to a picture
    assert numbers[: len(wanted)] == wanted and len(numbers) - len(wanted) in (0, 1)
    assert found.picture_jitter_s < 0.002
    # clicks are counted from the pictures' zero, and the first picture comes a little into the part
    assert abs(found.median_s + begins) <= USUALLY_S


def measure_start(path: Path, source: Authored) -> float:
    """When the source's first picture is shown, counted from its file's first moment."""
    return measure(path, source.rate, range(source.pictures.count)).picture_start_s


def test_the_rate_is_judged_by_the_times_and_not_by_the_header() -> None:
    film = [0.021 + round(n * 1001 / 24000, 3) for n in range(500)]
    in_fields = [(n // 2 * 5 + n % 2 * 3) * 1001 / 60000 for n in range(500)]
    turns = [n / 30 for n in range(900) if n % 120 < 60 or n % 2]
    assert find_timing(film, [Fraction(24000, 1001)]) == Timing(rate=FILM)
    assert find_timing(in_fields, [NTSC]) == Timing(rate=FILM)
    assert find_timing(turns, [Fraction(4500, 199)]) == Timing(rate=Fraction(30), variable=True)
    assert find_timing(film[:3], [FILM]) is None


def test_a_rate_near_a_standard_one_is_the_standard_one(tmp_path: Path) -> None:
    path = plain(tmp_path / "near.mkv", Pictures(count=240, rate=Fraction(60000, 1001)), (*H264, *AAC))
    video = read_source(path).titles[0].video
    assert video is not None
    assert (video.frame_rate, video.variable_rate, video.scan) == (Fraction(60000, 1001), False, Scan.PROGRESSIVE)
