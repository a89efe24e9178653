"""How much of the picture a file keeps: seconds that stand for it against whole files, measured by other means."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.instruments.engine import output_of
from tests.thorough import thorough

from rheon.core.commands.comparing import Model
from rheon.core.delivery import Order, convert
from rheon.core.encoding import (
    Fidelity,
    Viewing,
    fidelity,
    is_measurable,
    measure_fidelity,
    reference_in,
    together,
    turns_of,
)
from rheon.core.engine import probe, vmaf_engine
from rheon.core.media import OutputSettings, Title
from rheon.core.planning import NO_PINS, Balance, PlanRequest, fewer_lines, plan, read_pins
from rheon.core.planning.picture.rate_search import quality_for
from rheon.core.sources import read_source
from rheon.demo.models import device

SCREEN = Viewing(screen=(320, 240))


def film(path: Path, size: str = "320x240", seconds: int = 20, filters: str = "null", *coding: str) -> Title:
    """Something that moves, in grain that changes, more of it from half-way on."""
    source = f"testsrc2=s={size}:r=25:d={seconds},noise=alls=14:allf=t:enable='gt(t,{seconds / 2})'"
    argv = ["ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", f"{source},{filters},format=yuv420p"]
    output_of([*argv, "-c:v", "libx264", "-preset", "veryfast", "-qp", "6", *coding, str(path)])
    return read_source(path).titles[0]


def settings_at(title: Title, balance: Balance, **pins: str) -> OutputSettings:
    said = {"picture.codec": "h264"} | {f"picture.{key}": value for key, value in pins.items()}
    request = PlanRequest(title=title, devices=(device("heron-8"),), name="f", balance=balance, pins=read_pins(said))
    made = plan(request).settings
    assert made is not None
    return made


def measured(title: Title, made: OutputSettings, work: Path, viewing: Viewing = SCREEN) -> Fidelity:
    work.mkdir(exist_ok=True)
    turns = []
    for turn in range(turns_of(title, made)):
        turns.append(measure_fidelity(title, made, viewing, reference_in(work, title, made, turn)))
    return together(turns)


def of_whole(title: Title, made: Path) -> float:
    """VMAF of a whole file beside the whole source, by the engine itself, at the size of the screen."""
    program = vmaf_engine()
    assert program is not None
    seen = "settb=AVTB,setpts=N/25/TB,scale=320:240:flags=bicubic,format=yuv420p"
    graph = f"[0:v]{seen}[a];[1:v]{seen}[b];[a][b]libvmaf=log_fmt=csv:n_subsample=5:log_path=/dev/stdout"
    source = str(getattr(title.data, "path", ""))
    argv = [program, "-v", "error", "-i", str(made), "-i", source, "-filter_complex", graph, "-f", "null", "-"]
    lines = output_of(argv).decode().splitlines()
    column = lines[0].split(",").index("vmaf")
    scores = [float(line.split(",")[column]) for line in lines[1:] if line]
    assert len(scores) == round(title.duration_s * 5)
    return sum(scores) / len(scores)


@pytest.mark.parametrize(
    ("codec", "device_id"),
    [thorough("h264", "heron-8"), ("mpeg4", "petrel-24")],  # at a constant quality, and at a rate
)
def test_seconds_stand_for_the_whole_file_and_keep_the_order_of_the_balances(
    codec: str, device_id: str, tmp_path: Path
) -> None:
    title = film(tmp_path / "f.mkv", "192x144", 17)
    seconds, whole = [], []
    for balance in (Balance.LEAN, Balance.RICH):
        request = PlanRequest(
            title=title,
            devices=(device(device_id),),
            name=balance.value,
            balance=balance,
            pins=read_pins({"picture.codec": codec}),
        )
        made = plan(request)
        assert made.settings is not None and is_measurable(title, made.settings)
        found = measured(title, made.settings, tmp_path / "work")
        assert found.worst <= found.mean
        seconds.append(found.mean)
        folder = tmp_path / "out"
        folder.mkdir(exist_ok=True)
        order = Order(title=title, plan=made, devices=request.devices, folder=folder, token=balance.value)
        whole.append(of_whole(title, convert(order).path))
    assert seconds[0] < seconds[1] and whole[0] < whole[1]
    assert seconds == pytest.approx(whole, abs=1.5)


def test_what_is_asked_for_between_measured_points_comes_out(tmp_path: Path) -> None:
    title = film(tmp_path / "f.mkv", "192x144", 4)
    points = []
    for balance in Balance:
        made = settings_at(title, balance)
        assert made.video is not None and made.video.quality is not None
        points.append((made.video.quality, measured(title, made, tmp_path / "work").mean))
    wanted = (points[0][1] + points[2][1]) / 2
    quality = quality_for(wanted, points)
    assert quality is not None
    got = measured(title, settings_at(title, Balance.EVEN, rate=f"quality:{quality}"), tmp_path / "work").mean
    step = (points[2][1] - points[0][1]) / (points[0][0] - points[2][0])
    assert abs(got - wanted) < max(1.0, step)


@pytest.mark.thorough
def test_fewer_lines_keep_more_where_bits_are_few_and_less_where_there_are_enough(tmp_path: Path) -> None:
    seen = Viewing(screen=(640, 480))

    def pair(filters: str, **pins: str) -> tuple[Fidelity, Fidelity]:
        work = tmp_path / filters
        work.mkdir()
        title = film(work / "f.mkv", "640x480", 4, filters)
        planned = settings_at(title, Balance.EVEN, **pins)
        assert planned.video is not None
        fewer = fewer_lines(planned.video, NO_PINS)
        assert fewer is not None and fewer["picture.size"] == "360"
        said = {key.removeprefix("picture."): value for key, value in fewer.items()}
        made = (planned, settings_at(title, Balance.EVEN, **{**pins, **said}))
        one, other = (measured(title, settings, work, seen) for settings in made)
        return one, other

    few, fewer_of_few = pair("gblur=2", rate="average:60", size="480")
    assert fewer_of_few.mean > few.mean + 0.5
    many, fewer_of_many = pair("null", size="480")
    assert fewer_of_many.mean < many.mean
    # a constant quality becomes finer by as much as fewer pixels take fewer bits
    assert fewer_of_many.size_bytes == pytest.approx(many.size_bytes, rel=0.4)


@pytest.mark.parametrize(
    ("size", "filters", "coding", "pins"),
    [
        ("320x240", "pad=320:300:0:30:black", (), {"crop": "30,30,0,0"}),
        thorough("320x240", "transpose=cclock", (), {"rotation": "90"}),
        ("320x240", "interlace", ("-flags", "+ilme+ildct"), {"fields": "join"}),
        thorough("320x240", "setsar=4/3", (), {"size": "180"}),
        thorough("320x240", "null", (), {"frame_rate": "12.5"}),
    ],
)
def test_what_is_compared_is_the_same_part_of_the_same_pictures(
    tmp_path: Path, size: str, filters: str, coding: tuple[str, ...], pins: dict[str, str]
) -> None:
    title = film(tmp_path / "f.mkv", size, 3, filters, *coding)
    made = settings_at(title, Balance.RICH, **pins)
    assert measured(title, made, tmp_path / "work").mean > (70 if "size" in pins else 85)
    assert made.video is not None
    beside = replace(made, video=replace(made.video, crop=replace(made.video.crop, left=made.video.crop.left + 16)))
    shifted = measure_fidelity(title, beside, SCREEN, reference_in(tmp_path / "work", title, made))
    assert shifted.mean < 60


def test_without_the_model_likeness_of_structures_is_measured_and_said(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    title = film(tmp_path / "f.mkv", seconds=3)
    monkeypatch.setattr(fidelity, "vmaf_engine", lambda: None)
    scores = [
        measured(title, settings_at(title, balance), tmp_path / "work") for balance in (Balance.LEAN, Balance.RICH)
    ]
    assert [score.model for score in scores] == [None, None]
    assert 5 < scores[0].mean < scores[1].mean < 60
    assert len(scores[0].scores) == 75


def test_a_4k_picture_is_judged_on_a_4k_screen_and_a_phone_as_one(tmp_path: Path) -> None:
    title = film(tmp_path / "f.mkv", "256x144", 1)
    made = settings_at(title, Balance.LEAN)
    in_hand = measured(title, made, tmp_path / "work", Viewing(screen=(1280, 720), in_hand=True))
    far = measured(title, made, tmp_path / "work", Viewing(screen=(3840, 2160)))
    assert [score.model for score in (in_hand, far)] == [Model.PHONE, Model.HD]
    assert in_hand.mean > far.mean
    assert probe(str(reference_in(tmp_path / "work", title, made).path)).video is not None


@given(st.lists(st.tuples(st.integers(10, 40), st.floats(20, 100)), min_size=2, max_size=6), st.floats(0, 100))
def test_a_quality_is_only_told_between_measured_ones(points: list[tuple[int, float]], wanted: float) -> None:
    falling = [(quality, 100 - quality - score / 1000) for quality, score in points]
    found = quality_for(wanted, falling)
    best, least = max(score for _, score in falling), min(score for _, score in falling)
    if found is None:
        assert not least < wanted < best or len({quality for quality, _ in falling}) < 2
    else:
        assert min(quality for quality, _ in falling) <= found <= max(quality for quality, _ in falling)
        assert least <= wanted <= best
