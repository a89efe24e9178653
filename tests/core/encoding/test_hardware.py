"""Encoders in hardware are tried before they are used, and their arguments are those that the engine takes."""

from __future__ import annotations

import ctypes
import ctypes.util
import re
import subprocess
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.hardware import Chip, chip_at

from rheon.core.commands.clips import ClipFile
from rheon.core.commands.clips import clip as clip_command
from rheon.core.encoding import HardwareTrial, hardware_mark, try_hardware
from rheon.core.formats import HARDWARE, Family, levels_of
from rheon.core.media import Action, VideoSettings
from rheon.core.wording import sentence

BLOCKS = [(family, codec) for family in HARDWARE.values() for codec in family.blocks]
OF_FFMPEG = {"-c:v", "-fps_mode", "-init_hw_device", "-filter_hw_device", "-vf", "-f", "-i"}
SEARCH_CHILDREN = 1
MISSING = {
    "nvenc": "Cannot load libcuda",
    "qsv": "Device creation failed",
    "vaapi": "Device creation failed",
    "v4l2": "Could not find a valid device",
}
"""What the engine says where it took all arguments, and only the device is not there."""


@pytest.fixture
def chip(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Chip:
    made = chip_at(tmp_path / "machine", "dri/renderD128")
    monkeypatch.setenv("PATH", made.path)
    return made


def picture(family: Family, codec: str, profile: str | None, level: str | None = None) -> VideoSettings:
    encoder = family.encoder(codec)
    return VideoSettings(
        action=Action.ENCODE,
        codec=codec,
        width=640,
        height=360,
        sample_aspect=Fraction(1),
        frame_rate=Fraction(25),
        profile=profile,
        level=level,
        bit_depth=10 if profile and profile == encoder.ten_bit_profile else 8,
        encoder=encoder.name,
        device="/dev/none",
        bitrate_bps=1_500_000,
        peak_bps=4_000_000,
        buffer_bits=6_000_000,
        reference_frames=encoder.references,
        b_frames=0 if profile == "baseline" else encoder.b_frames,
        preset=encoder.preset[0],
    )


def arguments(made: VideoSettings) -> list[str]:
    return clip_command(made, None, 0.2, ClipFile(container="matroska", target="/dev/null"))


class Options:
    """The engine's own library, which reads the value of each option of an encoder."""

    def __init__(self) -> None:
        self._coding, self._reading = (ctypes.CDLL(ctypes.util.find_library(name)) for name in ("avcodec", "avutil"))
        self._coding.avcodec_find_encoder_by_name.restype = ctypes.c_void_p
        self._coding.avcodec_alloc_context3.restype = ctypes.c_void_p
        self._coding.avcodec_alloc_context3.argtypes = [ctypes.c_void_p]
        self._reading.av_opt_set.argtypes = [ctypes.c_void_p, ctypes.c_char_p, ctypes.c_char_p, ctypes.c_int]
        self._reading.av_log_set_level(-8)

    def refused(self, encoder: str, said: dict[str, str]) -> list[str]:
        """What of it the encoder does not take."""
        context = self._coding.avcodec_alloc_context3(self._coding.avcodec_find_encoder_by_name(encoder.encode()))
        assert context
        return [
            f"{name} {value}"
            for name, value in said.items()
            if self._reading.av_opt_set(context, name.encode(), value.encode(), SEARCH_CHILDREN) < 0
        ]


def of_encoder(made: VideoSettings) -> dict[str, str]:
    argv = arguments(made)
    argv = argv[argv.index("-c:v") : argv.index("-f", argv.index("-c:v"))]
    pairs = zip(argv[::2], argv[1::2], strict=True)
    return {flag[1:].removesuffix(":v"): value for flag, value in pairs if flag not in OF_FFMPEG}


@pytest.mark.parametrize(("family", "codec"), BLOCKS, ids=lambda value: getattr(value, "name", value))
def test_an_encoder_takes_every_argument_at_each_profile_and_level(family: Family, codec: str) -> None:
    options, encoder = Options(), family.encoder(codec)
    for profile in encoder.written_profiles:
        for level in (None, *levels_of(codec, profile)):
            said = of_encoder(picture(family, codec, profile, level))
            assert said["b"] == "1500000" and options.refused(encoder.name, said) == [], (profile, level)
    assert options.refused(encoder.name, {"b": "much", "no-such-option": "1", "g": "50"}) == [
        "b much",
        "no-such-option 1",
    ]


@pytest.mark.parametrize(("family", "codec"), BLOCKS, ids=lambda value: getattr(value, "name", value))
def test_the_engine_takes_the_whole_command_and_only_misses_the_device(family: Family, codec: str) -> None:
    for profile in family.encoder(codec).written_profiles:
        done = subprocess.run(arguments(picture(family, codec, profile)), check=False, capture_output=True, text=True)
        assert done.returncode and re.search(MISSING[family.name], done.stderr), done.stderr


def test_what_is_not_there_is_said_with_the_reason(tmp_path: Path, chip: Chip, monkeypatch: pytest.MonkeyPatch) -> None:
    by_family = {trial.family: trial for trial in try_hardware(tmp_path)}
    assert [trial.works for trial in by_family.values()] == [None] * len(HARDWARE)
    assert chip.asked() == [], "nothing is tried where there is no device"
    assert said(by_family["nvenc"]) == f"this machine has no such device: nothing is at {tmp_path}/nvidia*"
    monkeypatch.setattr("rheon.core.encoding.hardware._may_use", lambda node: False)
    assert "may not use" in said(next(trial for trial in try_hardware(chip.dev) if trial.family == "vaapi"))


def said(trial: HardwareTrial) -> str:
    assert trial.why is not None
    return sentence(trial.why)


def test_what_works_was_made_by_it_looked_at_and_timed(chip: Chip) -> None:
    found = {(trial.family, trial.codec): trial.works for trial in try_hardware(chip.dev)}
    h264, hevc = found["vaapi", "h264"], found["vaapi", "hevc"]
    assert h264 and h264.name == "h264_vaapi" and h264.device == str(chip.dev / "dri/renderD128")
    assert h264.depths == (8,) and h264.pixels_per_s > 1e6
    assert hevc and hevc.depths == (8, 10)
    assert found["qsv", "h264"] and not found["nvenc", "h264"] and not found["v4l2", "h264"]
    assert any("hwupload" in line and f"vaapi=encoding:{h264.device}" in line for line in chip.asked())


@pytest.mark.parametrize(
    ("how", "word"), [("start", "Failed to end picture encode issue"), ("colours", "Other pictures came out")]
)
def test_one_that_fails_or_makes_other_pictures_does_not_work(chip: Chip, how: str, word: str) -> None:
    chip.fail(how)
    trials = [trial for trial in try_hardware(chip.dev) if trial.family == "vaapi"]
    assert [trial.works for trial in trials] == [None] * 3
    assert all(word in said(trial) for trial in trials)


def test_a_device_that_comes_or_goes_is_worth_another_trial(chip: Chip, tmp_path: Path) -> None:
    before = hardware_mark(chip.dev)
    assert hardware_mark(chip.dev) == before
    (chip.dev / "nvidia0").touch()
    assert hardware_mark(chip.dev) != before
    assert hardware_mark(tmp_path / "nothing") == hardware_mark(tmp_path / "none")
