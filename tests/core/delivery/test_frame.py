"""The frame of what comes out: circles stay circles, the picture stands upright and is never mirrored, black goes."""

from __future__ import annotations

import io
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image, ImageDraw
from tests.instruments.engine import output_of
from tests.instruments.looked import looked_over
from tests.thorough import thorough

from rheon.core.analysis import survey_title, with_findings
from rheon.core.delivery import Order, convert
from rheon.core.engine import probe
from rheon.core.media import Title
from rheon.core.planning import Balance, Plan, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

LINES = 480


def upright(aspect: float, bars: float = 0.0) -> Image.Image:
    """As it is to be seen: a white disc on grey, a lamp above at the left; black above and below it."""
    wide, high = 2 * round(LINES * aspect / 2), LINES
    picture = Image.new("L", (wide, high), 0)
    draw = ImageDraw.Draw(picture)
    top = round(high * bars)
    draw.rectangle((0, top, wide, high - top - 1), fill=90)
    side = high - 2 * top
    radius, lamp = min(side, wide) * 0.35, min(side, wide) // 16
    draw.ellipse((wide / 2 - radius, high / 2 - radius, wide / 2 + radius, high / 2 + radius), fill=235)
    draw.rectangle((lamp // 2, top + lamp // 2, 3 * lamp // 2, top + 3 * lamp // 2), fill=235)
    return picture


def author(
    path: Path, picture: Image.Image, stored: tuple[int, int], *, shape: str, clockwise: int, told: int
) -> Title:
    """A film of one picture, stored so that it has to be turned ``clockwise``; its file tells a turn of ``told``."""
    lying = picture.rotate(clockwise, expand=True).resize(stored, Image.Resampling.LANCZOS)
    held = io.BytesIO()
    lying.save(held, "PNG")
    still, plain = path.with_suffix(".png"), path.with_name("plain.mp4")
    still.write_bytes(held.getvalue())
    argv = ["ffmpeg", "-v", "error", "-y", "-loop", "1", "-framerate", "25", "-i", str(still), "-t", "1"]
    argv += ["-vf", f"setsar={shape},format=yuv420p", "-c:v", "libx264", "-qp", "8"]
    output_of([*argv, str(plain)])
    # this engine takes it anticlockwise
    turn = ["-metadata:s:v:0", f"rotate={360 - told}"] if told else []
    output_of(["ffmpeg", "-v", "error", "-y", "-i", str(plain), "-c", "copy", *turn, str(path)])
    return read_source(path).titles[0]


def made_for(title: Title, name: str, tmp_path: Path, **pins: str) -> tuple[Plan, npt.NDArray[np.float64], Fraction]:
    """The plan, a picture of what is made by it as a player without a screen's turn gives it, the shape of a pixel."""
    said = {"picture.rate": "quality:14"} | {f"picture.{key}": value for key, value in pins.items()}
    target = device(name)
    wanted = PlanRequest(title=title, devices=(target,), name="F", balance=Balance.LEAN, pins=read_pins(said))
    made = plan(wanted)
    assert made.settings is not None
    (tmp_path / "out").mkdir(exist_ok=True)
    done = convert(Order(title=title, plan=made, devices=(target,), folder=tmp_path / "out", token="t"))
    video = probe(str(done.path)).video
    assert video is not None and video.rotation == 0
    argv = ["ffmpeg", "-v", "error", "-noautorotate", "-ss", "0.4", "-i", str(done.path), "-frames:v", "1"]
    shot = output_of([*argv, "-f", "image2", "-c:v", "png", "-pix_fmt", "gray", "pipe:1"])
    return made, np.asarray(Image.open(io.BytesIO(shot)), float), video.sample_aspect


def roundness(picture: npt.NDArray[np.float64], shape: Fraction) -> float:
    """Width to height of the disc as it is seen; the lamp, which stands in the corner, is left out."""
    y, x = np.nonzero(picture > 170)
    inside = (y > picture.shape[0] * 0.11) | (x > picture.shape[1] * 0.11)
    return float(x[inside].std() * float(shape) / y[inside].std())


def lamp_corner(picture: npt.NDArray[np.float64]) -> tuple[str, str]:
    """In which corner the lamp is."""
    lines, columns = picture.shape
    corners = {
        ("above", "left"): picture[: lines // 5, : columns // 4],
        ("above", "right"): picture[: lines // 5, -columns // 4 :],
        ("below", "left"): picture[-lines // 5 :, : columns // 4],
        ("below", "right"): picture[-lines // 5 :, -columns // 4 :],
    }
    return max(corners, key=lambda corner: corners[corner].max())


@pytest.mark.parametrize(
    ("name", "aspect", "stored", "shape", "clockwise", "told", "pins"),
    [
        ("wren-6", 16 / 9, (720, 576), "16/15", 0, 0, {"aspect": "16:9"}),
        ("heron-8", 4 / 3, (720, 480), "32/27", 0, 0, {"aspect": "4:3"}),
        thorough("gannet-43", 2.39, (640, 480), "1/1", 0, 0, {"aspect": "2.39"}),
        ("wren-6", 9 / 16, (640, 360), "1/1", 90, 90, {}),
        thorough("heron-8", 9 / 16, (640, 360), "1/1", 270, 0, {"rotation": "270"}),
        thorough("gannet-43", 16 / 9, (640, 360), "1/1", 180, 0, {"rotation": "180"}),
        ("wren-6", 16 / 9, (640, 360), "1/1", 0, 90, {"rotation": "0"}),
        thorough("heron-8", 3 / 4, (720, 576), "16/15", 90, 0, {"rotation": "90", "aspect": "3:4", "fields": "join"}),
        ("gannet-43", 3 / 4, (720, 576), "16/15", 90, 270, {"rotation": "90", "aspect": "3:4", "fields": "double"}),
    ],
)
def test_circles_stay_circles_and_the_picture_stands_upright(
    tmp_path: Path,
    name: str,
    aspect: float,
    stored: tuple[int, int],
    shape: str,
    clockwise: int,
    told: int,
    pins: dict[str, str],
) -> None:
    title = author(tmp_path / "f.mp4", upright(aspect), stored, shape=shape, clockwise=clockwise, told=told)
    _, picture, pixel = made_for(title, name, tmp_path, **pins)
    assert roundness(picture, pixel) == pytest.approx(1, abs=0.01)
    assert lamp_corner(picture) == ("above", "left")
    lines, columns = picture.shape
    assert columns * float(pixel) / lines == pytest.approx(aspect, rel=0.01)


@pytest.mark.parametrize(("clockwise", "told"), [thorough(0, 0), (90, 90), thorough(270, 270), thorough(180, 180)])
def test_black_goes_from_turned_pictures_too(tmp_path: Path, clockwise: int, told: int) -> None:
    stored = (854, 480) if clockwise % 180 == 0 else (480, 854)
    picture = upright(16 / 9, bars=0.125)
    title = author(tmp_path / "f.mp4", picture, stored, shape="1/1", clockwise=clockwise, told=told)
    made, seen, pixel = made_for(looked_over(title), "wren-6", tmp_path)
    assert made.settings and made.settings.video and made.settings.video.crop.any
    assert seen.shape[1] * float(pixel) / seen.shape[0] == pytest.approx(16 / 9 / 0.75, rel=0.02)
    assert seen[2:-2].mean(axis=1).min() > 70
    assert roundness(seen, pixel) == pytest.approx(1, abs=0.01)
    assert lamp_corner(seen) == ("above", "left")


def test_a_screen_is_filled_by_cutting_or_by_stretching_only_when_that_is_asked_for(tmp_path: Path) -> None:
    title = author(tmp_path / "f.mp4", upright(4 / 3), (640, 480), shape="1/1", clockwise=0, told=0)
    screen = device("heron-8").screen
    assert screen is not None
    wide = screen.width / screen.height
    for way, aspect, round_by in [("fit", 4 / 3, 1), ("fill", wide, 1), ("stretch", wide, wide / (4 / 3))]:
        _, picture, pixel = made_for(title, "heron-8", tmp_path, screen_fit=way, codec="h264")
        assert picture.shape[1] * float(pixel) / picture.shape[0] == pytest.approx(aspect, rel=0.01), way
        # filled, less of the grey is left above the disc, and the lamp may be cut
        assert roundness(picture, pixel) == pytest.approx(round_by, rel=0.012), way


def scenes(path: Path, shapes: list[float]) -> Title:
    """A film of two seconds for each share of black above and below."""
    for number, bars in enumerate(shapes):
        upright(16 / 9, bars).save(path.with_name(f"{number}.png"))
    argv = ["ffmpeg", "-v", "error", "-y", "-framerate", "1/2", "-i", str(path.with_name("%d.png")), "-r", "25"]
    argv += ["-vf", "format=yuv420p", "-c:v", "libx264", "-preset", "ultrafast", "-qp", "12", "-g", "50"]
    output_of([*argv, str(path)])
    return read_source(path).titles[0]


@pytest.mark.parametrize(
    ("shapes", "found", "often"),
    [
        thorough([0.125] * 20, 60, None),
        # a scene of one twentieth of the film is enough to keep its picture
        ([0.125] * 12 + [0.05] + [0.125] * 7, 24, 60),
        ([0.125] * 10 + [0.0] * 10, 0, 60),
    ],
)
def test_bars_that_change_are_found_and_only_what_is_black_in_all_goes(
    tmp_path: Path, shapes: list[float], found: int, often: int | None
) -> None:
    title = scenes(tmp_path / "f.mkv", shapes)
    survey = survey_title(title)
    borders = survey.borders
    assert borders is not None and borders.sure >= 0.6
    assert abs(borders.top - found) <= 2 and abs(borders.bottom - found) <= 2
    assert (borders.often is None) == (often is None)
    looked = with_findings(title, survey)
    made = plan(
        PlanRequest(title=looked, devices=(device("heron-8"),), name="F", pins=read_pins({"picture.codec": "h264"}))
    )
    crop = next(decision for decision in made.decisions if decision.key == "picture.crop")
    if often is None:
        assert crop.reason.code == "black_borders"
        return
    assert borders.often is not None and abs(borders.often.top - often) <= 2
    assert crop.reason.code == "shape_changes"
    assert borders.widest_at_s is not None
    # each stands half of its time before its moment
    widest = shapes[int((borders.widest_at_s + 1) // 2)]
    assert widest == min(shapes)
    assert any("in part of the pictures" in choice.text for choice in crop.choices)
    assert replace(looked, video=None) == replace(title, video=None)
