"""What is taken from a stretch of a title to be compared: prints of its sound, small grey pictures. Pure."""

from __future__ import annotations

from .inputs import audio_specifier, video_specifier
from .looking import View
from .start import QUIET


def sound_prints(view: View, length_s: float, rate: int) -> list[str]:
    """Prints (32 bits each, little endian) of the first track of a stretch; what is missing in it counts as silence."""
    argv = [*QUIET, *view.start, *view.source, "-map", audio_specifier(view.title, 0)]
    heard = f"{_from_moment(view, 'asetpts')},aresample={rate}:async=1:first_pts=0,atrim=end={length_s:.3f}"
    return [*argv, "-af", heard, "-ac", "1", "-f", "chromaprint", "-fp_format", "raw", "pipe:1"]


def small_pictures(view: View, size: tuple[int, int], rate: float, length_s: float) -> list[str]:
    """Luma of ``rate`` pictures a second of a stretch, raw; a picture stays until the next one comes."""
    # pictures that no other needs are left out: there are enough without them
    argv = [*QUIET, *view.start, "-skip_frame", "noref", *view.source, "-map", video_specifier(view.title)]
    steps = [_from_moment(view, "setpts"), "trim=start=-0.2", f"scale={size[0]}:{size[1]}:flags=area", "format=gray"]
    steps += [f"fps={rate:g}:start_time=0", f"trim=end={length_s:.3f}"]
    return [*argv, "-vf", ",".join(steps), "-fps_mode", "passthrough", "-f", "rawvideo", "pipe:1"]


def _from_moment(view: View, sets: str) -> str:
    """Time counted from the moment that is looked at."""
    return f"{sets}=PTS-{view.shown_s or 0.0:.6f}/TB"
