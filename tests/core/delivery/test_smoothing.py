"""Noise and banding: measured on the source, taken out only where that was asked for, and nothing else with them."""

from __future__ import annotations

import subprocess
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from tests.instruments.kept import once
from tests.instruments.looked import looked_over
from tests.instruments.movement import PAL, Taken, author, seen_in
from tests.thorough import thorough

from rheon.core.analysis.noise import find_noise
from rheon.core.delivery import Order, convert
from rheon.core.devices import DeviceProfile
from rheon.core.media import Title
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

Pictures = npt.NDArray[np.float64]
WIDE, HIGH, COUNT = 320, 240, 30
LAPTOP = device("redshank-book-2")


def clean() -> Pictures:
    """Soft hills that drift, with a sharp dark square in them."""
    y, x = np.mgrid[0:HIGH, 0:WIDE]
    made = []
    for number in range(COUNT):
        hills = 120 + 40 * np.sin((x + 2 * number) / 37) + 30 * np.cos((y - number) / 29)
        hills[100:160, 140:200] = 50
        made.append(hills)
    return np.array(made)


def stored(path: Path, pictures: Pictures) -> Title:
    argv = ["ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "gray", "-s", f"{WIDE}x{HIGH}", "-r", "25"]
    argv += ["-i", "pipe:0", "-vf", "format=yuv420p", "-color_range", "tv", "-c:v", "libx264", "-qp", "3", str(path)]
    subprocess.run(argv, input=np.clip(np.rint(pictures), 0, 255).astype(np.uint8).tobytes(), check=True)
    title = read_source(path).titles[0]
    return looked_over(title)


def luma(path: Path) -> Pictures:
    argv = ["ffmpeg", "-v", "error", "-i", str(path), "-vf", "extractplanes=y,format=gray", "-f", "rawvideo", "pipe:1"]
    done = subprocess.run(argv, check=True, capture_output=True).stdout
    return np.frombuffer(done, np.uint8).reshape(-1, HIGH, WIDE).astype(float)


def made(title: Title, folder: Path, target: DeviceProfile = LAPTOP, **pins: str) -> Path:
    said = {"picture.rate": "quality:12", "picture.codec": "h264"}
    said |= {f"picture.{key}": value for key, value in pins.items()}
    wanted = PlanRequest(title=title, devices=(target,), name="F", balance=Balance.EVEN, pins=read_pins(said))
    folder.mkdir()
    return convert(Order(title=title, plan=plan(wanted), devices=(target,), folder=folder, token="t")).path


def off_db(pictures: Pictures, truth: Pictures) -> float:
    """How far from the truth, as a peak signal-to-noise ratio in dB."""
    return float(10 * np.log10(255**2 / ((pictures - truth) ** 2).mean()))


def test_noise_is_measured_and_taken_out_when_asked_for(tmp_path: Path) -> None:
    truth = clean()
    noise = np.random.default_rng(5).normal(0, 6, truth.shape)
    titles = {"clean": stored(tmp_path / "c.mkv", truth), "noisy": stored(tmp_path / "n.mkv", truth + noise)}
    found = {name: title.video.noise for name, title in titles.items() if title.video}
    assert found["clean"] is not None and found["clean"] < 1
    assert found["noisy"] == pytest.approx(6, rel=0.2)
    shown = luma(tmp_path / "c.mkv")
    by = {
        (name, strength): off_db(luma(made(title, tmp_path / f"{name}-{strength}", denoise=strength)), shown)
        for name, title in titles.items()
        for strength in ("off", "light", "strong")
    }
    assert by["noisy", "off"] + 2 < by["noisy", "light"]
    assert by["noisy", "light"] + 1 < by["noisy", "strong"]
    # what is clean stays nearly as it is, and so do edges
    assert min(by["clean", "light"], by["clean", "strong"]) > 40


@pytest.mark.parametrize("sigma", [0.0, 2.0, 5.0, 12.0])
@pytest.mark.parametrize("seed", [0, thorough(1), thorough(2)])
def test_the_measure_of_noise_sees_no_movement_or_texture_as_noise(sigma: float, seed: int) -> None:
    rand = np.random.default_rng(seed)
    textured = clean()[:12] + rand.uniform(-30, 30, (1, HIGH, WIDE))
    moving = np.stack([np.roll(clean()[0], 9 * number, axis=1) for number in range(12)])
    for pictures in (textured, moving):
        seen = pictures - clean()[:12] + clean()[:1] if pictures is textured else pictures
        noisy = np.clip(seen + rand.normal(0, sigma, seen.shape), 0, 255)
        found = find_noise([np.rint(noisy).astype(np.uint8)])
        assert found is not None
        assert abs(found - sigma) < 0.2 * sigma + 1.0


def test_steps_in_a_ramp_are_smoothed_and_edges_stay(tmp_path: Path) -> None:
    ramp = np.tile(np.linspace(60, 90, WIDE), (COUNT, HIGH, 1))
    stepped = np.floor(ramp / 2) * 2 + 0.5
    stepped[:, 100:140, 100:200] = 180
    title = stored(tmp_path / "r.mkv", stepped)
    sky = np.s_[:, 160:230, 20:-20]

    def steps(pictures: Pictures) -> float:
        """The mean jump between neighbours, over what a ramp has."""
        smooth = pictures[sky].mean(axis=(0, 1))
        return float(np.abs(np.diff(smooth)).max())

    left, light, strong = (luma(made(title, tmp_path / name, deband=name)) for name in ("off", "light", "strong"))
    assert steps(left) > 1.5
    assert max(steps(light), steps(strong)) < 0.75 * steps(left)
    assert abs(strong[:, 110:130, 110:190].mean() - left[:, 110:130, 110:190].mean()) < 1


def test_fields_that_are_kept_are_smoothed_each_by_itself(tmp_path: Path) -> None:
    taken = Taken(rate=PAL, lines=576, seconds=2, top_first=False)
    title = read_source(once("moves-briefly.mpg", lambda path: author(path, taken))).titles[0]
    title = looked_over(title)
    path = made(title, tmp_path / "out", device("petrel-24"), codec="mpeg2video", rate="average:6000", denoise="strong")
    seen = seen_in(path, as_fields=True)
    assert seen.judder < 0.006
    assert len(seen.times) > 60
