"""A minute to try is the one that asks most of a plan, made just as the whole file is."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import pytest
from tests.instruments.engine import output_of
from tests.instruments.kept import once

from rheon.core.analysis import Demand, cut_places, most_demanding, sample_pictures
from rheon.core.delivery import Order, convert
from rheon.core.engine import probe
from rheon.core.errors import Stopped
from rheon.core.media import Action, KeptRange, Samples, Title
from rheon.core.planning import Plan, PlanRequest, minute_plan, minute_request, minute_within, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

LENGTH_S, TRY_S = 44, 12.0
"""A fifth of what it is for people, so that much is tried in little time."""
HARD = KeptRange(from_s=24.0, until_s=38.0)


def author(path: Path) -> Path:
    """Three quarters of a minute that stand nearly still, but for some seconds with noise that moves."""
    noisy = f"between(t,{HARD.from_s},{HARD.until_s})"
    graph = f"testsrc2=size=160x120:rate=25:duration={LENGTH_S},setpts=N/25/TB,noise=alls=10:allf=t:enable='{noisy}'"
    argv = [
        "ffmpeg",
        "-v",
        "error",
        "-f",
        "lavfi",
        "-i",
        graph,
        "-f",
        "lavfi",
        "-i",
        f"sine=330:sample_rate=48000:duration={LENGTH_S}",
    ]
    coding = ["-c:v", "mpeg2video", "-g", "25", "-q:v", "4", "-c:a", "ac3", "-b:a", "96k"]
    output_of([*argv, *coding, str(path)])
    return path


@pytest.fixture(scope="module")
def title() -> Title:
    return read_source(once("busy-seconds.ts", author)).titles[0]


@pytest.fixture(scope="module")
def demand(title: Title) -> Demand:
    return most_demanding(title, (KeptRange(from_s=0, until_s=title.duration_s),), TRY_S)


@pytest.fixture(scope="module")
def samples(title: Title) -> Samples | None:
    return sample_pictures(title)


def request(title: Title, device_id: str, samples: Samples | None, **pins: str) -> PlanRequest:
    named = {key.replace("_", ".", 1): value for key, value in pins.items()}
    return PlanRequest(title=title, devices=(device(device_id),), name="Storm", pins=read_pins(named), samples=samples)


def minute(of: PlanRequest, demand: Demand) -> tuple[Plan, Plan]:
    """The plan of the whole file, and that of its minute."""
    whole = plan(of)
    copies = cut_places(of.title, (demand.stretch,)).copies
    wanted = replace(minute_request(of, whole, demand.stretch), copy_ranges=copies)
    return whole, minute_plan(wanted, whole, demand.times_mean)


def made(title: Title, of: Plan, device_id: str, folder: Path) -> Path:
    return convert(Order(title=title, plan=of, devices=[device(device_id)], folder=folder, token="a")).path


def likeness(whole: Path, from_s: float, part: Path) -> float:
    """The mean SSIM of every fifth picture of the part with those of the whole from a moment on."""
    even = "settb=1/25,setpts=N,select=not(mod(n\\,5))"
    graph = f"[0:V:0]{even}[a];[1:V:0]{even}[b];[a][b]ssim=shortest=1:stats_file=-"
    argv = ["ffmpeg", "-v", "error", "-ss", f"{from_s - 0.002:.3f}", "-i", str(whole), "-i", str(part)]
    said = output_of([*argv, "-filter_complex", graph, "-f", "null", "-"]).decode()
    found = [float(score) for score in re.findall(r"All:([\d.]+)", said)]
    assert len(found) > 55
    return sum(found) / len(found)


def test_the_minute_is_where_the_pictures_need_the_most_bits_and_asked_for_inside_what_is_kept(
    title: Title, demand: Demand
) -> None:
    assert demand.stretch.length_s == pytest.approx(TRY_S)
    assert HARD.from_s - 3 <= demand.stretch.from_s <= HARD.until_s - TRY_S + 3
    assert demand.times_mean > 1.2
    inside = (KeptRange(from_s=2, until_s=23),)
    assert 2 <= most_demanding(title, inside, TRY_S).stretch.from_s <= 23 - TRY_S
    heard = most_demanding(replace(title, video=None), (KeptRange(from_s=0, until_s=LENGTH_S),), TRY_S)
    assert heard == Demand(stretch=KeptRange(from_s=16, until_s=28), times_mean=1.0, places=0)
    with pytest.raises(Stopped):
        most_demanding(title, inside, TRY_S, lambda: True)


def test_its_pictures_are_those_of_the_whole_file_and_its_length_is_a_minute(
    title: Title, samples: Samples, demand: Demand, tmp_path: Path
) -> None:
    of = request(title, "curlew-2", samples)
    whole, part = minute(of, demand)
    assert whole.settings and part.settings and whole.settings.video and whole.settings.video.action is Action.ENCODE
    assert part.settings.video == whole.settings.video
    assert [track.action for track in part.settings.audio] == [track.action for track in whole.settings.audio]
    files = [made(title, one, "curlew-2", tmp_path) for one in (whole, part)]
    assert files[1].stem == "Storm (a minute to try)"
    found = probe(str(files[1]))
    assert found.duration_s == pytest.approx(part.settings.duration_s, abs=0.1)
    assert part.settings.duration_s == pytest.approx(TRY_S, abs=2.5)  # sound that is copied begins at a key picture
    assert likeness(files[0], part.settings.kept[0].from_s, files[1]) > 0.97  # of moving noise
    assert part.estimate and part.estimate.size_low_bytes <= files[1].stat().st_size <= part.estimate.size_high_bytes


def test_a_size_for_the_whole_file_is_a_rate_for_the_minute_with_the_bits_that_two_passes_would_give_it(
    title: Title, samples: Samples, demand: Demand
) -> None:
    whole, part = minute(request(title, "curlew-2", samples, picture_rate="size:2"), demand)
    assert whole.settings and part.settings and whole.settings.video and part.settings.video
    mean, given = whole.settings.video.bitrate_bps, part.settings.video.bitrate_bps
    assert mean and given and mean * 1.1 < given <= (whole.settings.video.peak_bps or 0)
    assert replace(part.settings.video, bitrate_bps=mean) == whole.settings.video
    assert part.settings.video.passes == whole.settings.video.passes


def test_what_is_copied_stays_copied_and_begins_where_it_can(
    title: Title, samples: Samples, demand: Demand, tmp_path: Path
) -> None:
    of = request(title, "cormorant-box", samples)
    whole, part = minute(of, demand)
    assert whole.settings and part.settings and part.settings.video
    assert {stream.action for stream in (whole.settings.video, *whole.settings.audio) if stream} == {Action.COPY}
    assert {part.settings.video.action, *(track.action for track in part.settings.audio)} == {Action.COPY}
    found = probe(str(made(title, part, "cormorant-box", tmp_path)))
    assert found.duration_s == pytest.approx(TRY_S, abs=2.1)  # a key picture every second


def test_what_is_hardly_longer_than_a_minute_is_made_whole_under_its_name(title: Title, samples: Samples) -> None:
    of = request(title, "curlew-2", samples, range_keep="0:10-0:40", file_name="Storm over the sound")
    whole = plan(of)
    assert whole.settings and minute_within(title, whole.settings) == ()
    part = minute_plan(minute_request(of, whole, None), whole)
    assert part.settings and part.settings.kept == whole.settings.kept
    assert part.settings.video == whole.settings.video
    assert Path(part.settings.file_name).stem == "Storm over the sound (a minute to try)"
