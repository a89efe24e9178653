"""Colours come out as they went in, whatever matrix and range the source has."""

from __future__ import annotations

import io
from pathlib import Path

import pytest
from PIL import Image
from tests.instruments.engine import output_of
from tests.thorough import thorough

from rheon.core.delivery import Order, convert
from rheon.core.engine import probe
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

BARS = [(191, 30, 30), (30, 160, 40), (40, 60, 200), (200, 190, 40)]


SAYS_RGB = ("-colorspace", "rgb", "-color_trc", "log316")


def bars(path: Path) -> Path:
    """A still of four bars of known colour at 1280x720, beside a file that is made of it."""
    picture = Image.new("RGB", (1280, 720))
    for place, colour in enumerate(BARS):
        picture.paste(colour, (place * 320, 0, place * 320 + 320, 720))
    still = path.with_suffix(".png")
    picture.save(still)
    return still


def source(path: Path, matrix: str, scaler: str, full: bool) -> None:
    """Four bars of known colour, coded with a matrix and range of our choosing."""
    out = "full" if full else "limited"
    argv = ["ffmpeg", "-v", "error", "-y", "-loop", "1", "-framerate", "25", "-i", str(bars(path)), "-t", "1"]
    argv += ["-vf", f"scale=out_color_matrix={scaler}:out_range={out},format=yuv420p", "-c:v", "libx264", "-qp", "4"]
    argv += ["-colorspace", matrix, "-color_primaries", matrix, "-color_trc", matrix]
    output_of([*argv, "-color_range", "pc" if full else "tv", str(path)])


def bars_of(path: Path, scaler: str) -> list[tuple[int, ...]]:
    argv = ["ffmpeg", "-v", "error", "-ss", "0.4", "-i", str(path), "-frames:v", "1"]
    argv += ["-vf", f"scale=in_color_matrix={scaler}:in_range=limited:out_range=full,format=rgb24"]
    picture = Image.open(io.BytesIO(output_of([*argv, "-f", "image2", "-c:v", "png", "pipe:1"])))
    return [picture.getpixel((int(picture.width * (place + 0.5) / 4), picture.height // 2)) for place in range(4)]


@pytest.mark.parametrize(
    ("matrix", "scaler", "full", "size", "expected"),
    [
        thorough("bt709", "bt709", False, "480", ("smpte170m", "bt601")),
        ("bt709", "bt709", True, "480", ("smpte170m", "bt601")),
        thorough("bt709", "bt709", True, "720", ("bt709", "bt709")),
        ("smpte170m", "bt601", False, "720", ("bt709", "bt709")),
    ],
)
def test_bars_keep_their_colours(
    tmp_path: Path, matrix: str, scaler: str, full: bool, size: str, expected: tuple[str, str]
) -> None:
    source(tmp_path / "bars.mp4", matrix, scaler, full)
    title = read_source(tmp_path / "bars.mp4").titles[0]
    target = device("wren-6")
    pins = {"picture.size": size, "picture.rate": "quality:10"}
    made = plan(PlanRequest(title=title, devices=(target,), name="Bars", balance=Balance.LEAN, pins=read_pins(pins)))
    (tmp_path / "out").mkdir()
    done = convert(Order(title=title, plan=made, devices=[target], folder=tmp_path / "out", token="bars"))
    video = probe(str(done.path)).video
    assert video and video.colour
    assert (video.colour.matrix, video.colour.full_range) == (expected[0], False)
    for seen, wanted in zip(bars_of(done.path, expected[1]), BARS, strict=True):
        assert max(abs(a - b) for a, b in zip(seen, wanted, strict=True)) <= 6, (seen, wanted)


@pytest.mark.parametrize(
    ("name", "kept_as", "coding"),
    [
        ("screen.mkv", "format=gbrp", ("-c:v", "ffv1")),
        ("odd.avi", "scale=1281:721:out_color_matrix=bt709,format=yuv420p", ("-c:v", "mpeg4", "-q:v", "2")),
        ("studio.mkv", "scale=out_color_matrix=bt709,format=yuv422p10", ("-c:v", "ffv1", "-colorspace", "bt709")),
        # what it says of itself is not so, and nothing is converted by it
        ("wrong.mkv", "scale=out_color_matrix=bt709,format=yuv420p", ("-c:v", "libx264", "-qp", "4", *SAYS_RGB)),
    ],
)
def test_in_whatever_form_pictures_are_held_their_colours_stay(
    name: str, kept_as: str, coding: tuple[str, ...], tmp_path: Path
) -> None:
    path = tmp_path / name
    argv = ["ffmpeg", "-v", "error", "-loop", "1", "-framerate", "25", "-i", str(bars(path)), "-t", "1"]
    output_of([*argv, "-vf", kept_as, *coding, str(path)])
    title = read_source(path).titles[0]
    pins = read_pins({"picture.size": "360", "picture.rate": "quality:10"})
    request = PlanRequest(title=title, devices=(device("wren-6"),), name="x", pins=pins)
    made = Order(title=title, plan=plan(request), devices=[device("wren-6")], folder=tmp_path, token="t")
    for found, wanted in zip(bars_of(convert(made).path, "bt601"), BARS, strict=True):
        assert found == pytest.approx(wanted, abs=5)
