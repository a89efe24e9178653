"""A machine with a graphics chip, as far as a program can tell: device nodes, and an engine that stands in for them.

The engine is the real one, started by a script that reads the arguments as an engine with such a chip would, and has
software do the work. What it is to do wrong is written into a file beside it.
"""

from __future__ import annotations

import os
import shutil
import stat
import sys
from dataclasses import dataclass
from pathlib import Path

SCRIPT = """#!{python} -IS
import os, pathlib, signal, subprocess, sys, time
REAL, HERE = "{real}", pathlib.Path(__file__).parent
argv = sys.argv[1:]
SOFTWARE = {{"h264": ["libx264", "-preset", "superfast"], "hevc": ["libx265", "-preset", "ultrafast"],
             "vp9": ["libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8"]}}
ONLY_THERE = {{"-init_hw_device", "-filter_hw_device", "-rc_mode", "-rc", "-tier", "-tune", "-preset", "-dpb_size",
              "-b_ref_mode", "-b_strategy"}}
PROFILES = {{"constrained_baseline": "baseline", "578": "baseline", "77": "main", "100": "high"}}
named = [value for flag, value in zip(argv, argv[1:]) if flag == "-c:v"]
family = next((value.rpartition("_") for value in named if "_" in value), None)
if family is None:
    os.execv(REAL, ["ffmpeg", *argv])
with (HERE / "asked").open("a") as log:
    log.write(repr(argv) + "\\n")
wrong = (HERE / "wrong").read_text() if (HERE / "wrong").exists() else ""
tried = any("testsrc2" in value for value in argv)
given, place = [], 0
while place < len(argv):
    flag = argv[place]
    if flag == "-profile:v" and family[0] == "h264":
        given += [flag, PROFILES.get(argv[place + 1], argv[place + 1])]
        place += 2
        continue
    if flag in ONLY_THERE or (flag in ("-profile:v", "-level") and family[0] != "h264"):
        place += 2
        continue
    if flag == "-c:v":
        given += ["-c:v", *SOFTWARE[family[0]]]
        place += 2
        continue
    for there, here in (("format=nv12", "format=yuv420p"), ("format=p010le", "format=yuv420p10le"), (",hwupload", "")):
        flag = flag.replace(there, here)
    if wrong == "colours" and "format=yuv420p" in flag:
        flag = flag.replace("format=yuv420p", "negate,format=yuv420p", 1)
    given.append(flag)
    place += 1
if wrong == "start" or (wrong in ("middle", "hangs") and not tried):
    if wrong != "start":
        # real time, so that it has come to its middle when it fails
        given.insert(given.index("-i") if "-i" in given else 0, "-re")
        running = subprocess.Popen([REAL, *given], stdin=sys.stdin)
        time.sleep(1.2)
        running.send_signal(signal.SIGSTOP if wrong == "hangs" else signal.SIGKILL)
        running.wait()
    print("Failed to end picture encode issue: 23 (internal encoding error).", file=sys.stderr)
    print("Conversion failed!", file=sys.stderr)
    sys.exit(1)
os.execv(REAL, ["ffmpeg", *given])
"""


@dataclass(frozen=True, slots=True)
class Chip:
    """``path`` goes before the usual one, ``dev`` is where the device nodes are."""

    folder: Path

    @property
    def dev(self) -> Path:
        return self.folder / "dev"

    @property
    def path(self) -> str:
        return f"{self.folder / 'bin'}{os.pathsep}{os.environ['PATH']}"

    def fail(self, how: str) -> None:
        """``start``: always; ``middle``: while a title is made; ``hangs``: then nothing comes out any more, and it does
        not end; ``colours``: other pictures come out; empty: never.
        """
        (self.folder / "bin" / "wrong").write_text(how)

    def asked(self) -> list[str]:
        """What the engine was asked for that the chip does, a line each."""
        log = self.folder / "bin" / "asked"
        return log.read_text().splitlines() if log.exists() else []


def chip_at(folder: Path, *nodes: str) -> Chip:
    """A machine with such device nodes, as ``dri/renderD128``."""
    chip = Chip(folder)
    for node in nodes:
        (chip.dev / node).parent.mkdir(parents=True, exist_ok=True)
        (chip.dev / node).touch()
    (folder / "bin").mkdir(parents=True)
    engine = folder / "bin" / "ffmpeg"
    engine.write_text(SCRIPT.format(python=sys.executable, real=shutil.which("ffmpeg")))
    engine.chmod(engine.stat().st_mode | stat.S_IXUSR)
    return chip
