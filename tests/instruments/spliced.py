"""Pictures and sounds of the engine's own making, one after the other."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from .engine import output_of

PICTURE = "testsrc2=s=320x180:r=25"
BLACK = "color=c=black:s=320x180:r=25"
TONE, SILENCE = "sine=f=500:r=48000", "anullsrc=r=48000:cl=mono"
X264 = ("-c:v", "libx264", "-preset", "ultrafast", "-c:a", "aac")
MPEG2 = ("-c:v", "mpeg2video", "-b:v", "2M", "-c:a", "mp2", "-f", "mpegts")


def spliced(target: Path, parts: Sequence[tuple[str, str, float]], coding: Sequence[str]) -> Path:
    """Pictures and sounds one after the other, each for so many seconds."""
    argv = ["ffmpeg", "-v", "error", "-y"]
    for picture, sound, length in parts:
        argv += ["-f", "lavfi", "-t", str(length), "-i", picture, "-f", "lavfi", "-t", str(length), "-i", sound]
    pads = "".join(f"[{2 * n}][{2 * n + 1}]" for n in range(len(parts)))
    argv += ["-filter_complex", f"{pads}concat=n={len(parts)}:v=1:a=1[v][a]", "-map", "[v]", "-map", "[a]"]
    output_of([*argv, *coding, str(target)])
    return target
