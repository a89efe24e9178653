"""A verb that is ended from outside leaves nothing, or leaves it to the next one to clear away."""

from __future__ import annotations

import signal
import subprocess
import sys
from pathlib import Path

import pytest
from tests.instruments.waiting import until

from rheon.demo.models import model_file


def started(media: Path, folder: Path) -> subprocess.Popen[bytes]:
    """A conversion that takes long enough to be ended, with its part already there."""
    argv = [sys.executable, "-c", "from rheon.cli.main import main; main()", "convert", str(media / "MARRAM_NIGHTS")]
    argv += ["--title", "1", "--device", str(model_file("wren-6")), "--to", str(folder), "--no-analyse", "--json"]
    process = subprocess.Popen(argv, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    until(lambda: bool(parts(folder)))
    return process


def parts(folder: Path) -> list[Path]:
    return list(folder.glob(".rheon-*"))


@pytest.mark.parametrize("sign", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT])
def test_a_conversion_that_is_ended_clears_up(sign: signal.Signals, media: Path, tmp_path: Path) -> None:
    process = started(media, tmp_path)
    process.send_signal(sign)
    assert process.wait(20) != 0
    assert list(tmp_path.iterdir()) == []


def test_what_a_killed_conversion_left_goes_with_the_next_and_a_running_one_keeps_its_part(
    media: Path, tmp_path: Path
) -> None:
    killed = started(media, tmp_path)
    killed.kill()
    killed.wait()
    (left,) = parts(tmp_path)
    running = started(media, tmp_path)
    until(lambda: len(parts(tmp_path)) == 1 and left not in parts(tmp_path))
    (mine,) = parts(tmp_path)
    other = started(media, tmp_path)
    until(lambda: len(parts(tmp_path)) == 2)
    assert mine in parts(tmp_path)
    for process in (running, other):
        process.terminate()
        process.wait(20)
    assert list(tmp_path.iterdir()) == []
