"""What is measured along a stretch of a title: its sound, its level, its pictures and when they change. Pure."""

from __future__ import annotations

from .inputs import audio_specifier, video_specifier
from .looking import View
from .start import QUIET, TALKING

LEVEL_RATE = 8000
CHANGED = 0.1
"""Of the engine's score between 0 and 1: cuts are above, movement is below."""


def sound_fingerprints(view: View, length_s: float, rate: int) -> list[str]:
    """Fingerprints (32 bits each, little endian) of the first track of a stretch; what is missing is silence."""
    argv = [*QUIET, *view.start, *view.source, "-map", audio_specifier(view.title, 0)]
    heard = f"{_from_moment(view, 'asetpts')},aresample={rate}:async=1:first_pts=0,atrim=end={length_s:.3f}"
    return [*argv, "-af", heard, "-ac", "1", "-f", "chromaprint", "-fp_format", "raw", "pipe:1"]


def small_grey(view: View, size: tuple[int, int], rate: float, length_s: float) -> list[str]:
    """Luma of ``rate`` pictures a second of a stretch, raw; a picture stays until the next one comes."""
    # pictures that no other needs are left out: there are enough without them
    argv = [*QUIET, *view.start, "-skip_frame", "noref", *view.source, "-map", video_specifier(view.title)]
    steps = [_from_moment(view, "setpts"), "trim=start=-0.2", f"scale={size[0]}:{size[1]}:flags=area", "format=gray"]
    steps += [f"fps={rate:g}:start_time=0", f"trim=end={length_s:.3f}"]
    return [*argv, "-vf", ",".join(steps), "-fps_mode", "passthrough", "-f", "rawvideo", "pipe:1"]


def picture_times(view: View, length_s: float) -> list[str]:
    """The time of each picture of a stretch, counted from the moment; a line for each."""
    argv = [*QUIET, *view.start, *view.source, "-map", video_specifier(view.title)]
    # pictures are only listed where something is known of them
    told = "scale=16:16,select='gt(scene\\,-1)',metadata=print:file=-"
    seen = f"{_from_moment(view, 'setpts')},trim=start=-1:end={length_s:.3f},{told}"
    return [*argv, "-vf", seen, "-fps_mode", "passthrough", "-f", "null", "-"]


def sound_samples(view: View, track: int, length_s: float, rate: int) -> list[str]:
    """The samples of a track in a stretch, as floats of one channel."""
    argv = [*QUIET, *view.start, *view.source, "-map", audio_specifier(view.title, track)]
    heard = f"{_from_moment(view, 'asetpts')},aresample={rate}:async=1:first_pts=0"
    return [
        *argv,
        "-af",
        f"{heard},atrim=end={length_s:.6f}",
        "-ac",
        "1",
        "-f",
        "f32le",
        "pipe:1",
    ]


def sound_levels(view: View, length_s: float, step_s: float) -> list[str]:
    """The level of the first track in each stretch of ``step_s``, a line each."""
    argv = [*QUIET, *view.start, *view.source, "-map", audio_specifier(view.title, 0)]
    heard = f"{_from_moment(view, 'asetpts')},aresample={LEVEL_RATE}:async=1:first_pts=0,atrim=end={length_s:.3f}"
    measured = f"asetnsamples=n={round(LEVEL_RATE * step_s)},astats=metadata=1:reset=1:measure_perchannel=none"
    told = "ametadata=print:key=lavfi.astats.Overall.RMS_level:file=-"
    return [*argv, "-ac", "1", "-af", f"{heard},aformat=channel_layouts=mono,{measured},{told}", "-f", "null", "-"]


def scene_changes(view: View, after_s: float, length_s: float, *, first_only: bool) -> list[str]:
    """The times, counted from the moment, of pictures quite other than those before them; a line for each."""
    argv = [*QUIET, *view.start, *view.source, "-map", video_specifier(view.title)]
    seen = f"{_from_moment(view, 'setpts')},trim=start=-1:end={length_s:.3f},scale=160:90,format=yuv420p"
    found = f"select='gt(scene\\,{CHANGED})*gt(t\\,{after_s:.6f})',metadata=print:file=-"
    once = ["-frames:v", "1"] if first_only else []
    return [*argv, "-vf", f"{seen},{found}", "-fps_mode", "passthrough", *once, "-f", "null", "-"]


def black_and_silent(view: View, track: int | None) -> list[str]:
    """When the picture is black, and a track silent (``None``: there is no sound), reported as it is found out."""
    argv = [*TALKING, "-nostats", *view.start, *view.source, "-map", video_specifier(view.title)]
    argv += ["-vf", "scale=w='min(360,iw)':h=-2,blackdetect=d=0.2:pix_th=0.08:pic_th=0.995"]
    if track is not None:
        argv += ["-map", audio_specifier(view.title, track), "-af", "silencedetect=n=-55dB:d=0.2"]
    return [*argv, "-f", "null", "-"]


def _from_moment(view: View, sets: str) -> str:
    """Time counted from the moment that is looked at."""
    return f"{sets}=PTS-{view.shown_s or 0.0:.6f}/TB"
