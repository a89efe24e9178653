"""How much of a title's picture a file keeps: seconds of it are made and held against the source, as both are seen."""

from __future__ import annotations

import functools
import importlib.util
import itertools
import json
import math
import re
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from pathlib import Path

from ..commands.comparing import Comparison, comparing_command
from ..engine import Command, engine_filters, run
from ..errors import EngineError
from ..media import Action, Borders, DynamicRange, OutputSettings, Title, VideoSettings, VideoStream
from ..media.kept import KeptRange, on_pictures
from .run import Hooks, make_file

PLACES, PLACE_S = 5, 1.6
WORST_SHARE = 0.05
NEAR_LOSSLESS = 3
"""Constant quality of what the source is held as meanwhile: no model sees a difference."""
FREE_BPS = 400_000_000
HD_SIDES, UHD_SIDES = (1920, 1080), (3840, 2160)
TIMEOUT_S = 240
SAME_DB = 60.0
"""SSIM in dB of pictures that are equal."""
LOG = "scores"
HD_MODEL, UHD_MODEL, PHONE_MODEL = "vmaf_v0.6.1", "vmaf_4k_v0.6.1", "vmaf_v0.6.1+phone"


class Measure(StrEnum):
    """What says how much is kept: a model of people's judgement from 0 to 100, or how like structures are, in dB."""

    VMAF = "vmaf"
    SSIM = "ssim"


@dataclass(frozen=True, slots=True, kw_only=True)
class Viewing:
    """Where a file is watched: the screen in pixels, ``None`` where nothing is known of it, and whether by hand."""

    screen: tuple[int, int] | None = None
    in_hand: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Fidelity:
    """Mean score and that of the worst twentieth of the pictures, of so many pictures from ``seconds`` of the title.

    ``rate_bps`` is what the pictures of these seconds took.
    """

    measure: Measure
    model: str
    mean: float
    worst: float
    pictures: int
    seconds: float
    rate_bps: float


@functools.lru_cache(maxsize=1)
def measuring_engine() -> tuple[str, Measure]:
    """The engine that measures, and by what: the best measure that one on this machine has.

    VMAF (ITU-T P.910's way of asking people, learnt) needs an engine that was built with it: the system's, else the
    one that the optional package ``imageio-ffmpeg`` brings. Raises ``ToolMissing`` or ``EngineError``.
    """
    if "libvmaf" in engine_filters():
        return "ffmpeg", Measure.VMAF
    if (own := _packaged_engine()) is not None and "libvmaf" in engine_filters(own):
        return own, Measure.VMAF
    return "ffmpeg", Measure.SSIM


def _packaged_engine() -> str | None:
    found = importlib.util.find_spec("imageio_ffmpeg")
    if found is None or found.origin is None:
        return None
    binaries = sorted((Path(found.origin).parent / "binaries").glob("ffmpeg-*"))
    return str(binaries[-1]) if binaries else None


def measured_stretches(title: Title, settings: OutputSettings) -> tuple[KeptRange, ...]:
    """The seconds that stand for a file: spread over what of the title goes into it, on whole pictures."""
    kept = settings.kept or (KeptRange(from_s=0, until_s=title.duration_s),)
    length_s = sum(one.length_s for one in kept)
    if length_s <= 2 * PLACES * PLACE_S:
        return kept
    found = []
    for number in range(PLACES):
        moment_s = length_s * (number + 0.5) / PLACES
        for one in kept:
            if moment_s < one.length_s:
                begin_s = one.from_s + min(moment_s, max(0.0, one.length_s - PLACE_S))
                end_s = min(one.until_s, begin_s + PLACE_S)
                found.append(on_pictures(title, KeptRange(from_s=begin_s, until_s=end_s)))
                break
            moment_s -= one.length_s
    return tuple(found)


def is_measurable(title: Title, settings: OutputSettings) -> bool:
    """Whether the picture is made anew from one source, at one rate, in the range that the models were made for."""
    made = settings.video
    if made is None or made.action is not Action.ENCODE or made.variable_rate or title.joined:
        return False
    return made.colour is None or made.colour.dynamic_range is DynamicRange.STANDARD


def make_reference(title: Title, settings: OutputSettings, target: Path, hooks: Hooks | None = None) -> None:
    """The source's side: the same pictures, cropped, in fields and colours as they will be, in all the source's size.

    A Matroska file. Raises ``RheonError`` or ``Stopped``.
    """
    assert title.video is not None and settings.video is not None
    width, height = _stored_size(title.video, settings.video)
    source = replace(
        settings.video,
        codec="h264",
        encoder="libx264",
        profile="high",
        level=None,
        preset="ultrafast",
        bit_depth=8,
        width=width,
        height=height,
        sample_aspect=Fraction(1),
        pad=Borders(),
        quality=NEAR_LOSSLESS,
        bitrate_bps=None,
        passes=1,
        peak_bps=FREE_BPS,
        buffer_bits=FREE_BPS,
        reference_frames=1,
        b_frames=0,
        keyframe_frames=50,
    )
    make_file(title, _short(title, settings, source), target, hooks)


def measure_fidelity(
    title: Title, settings: OutputSettings, viewing: Viewing, reference: Path, hooks: Hooks | None = None
) -> Fidelity:
    """Make the seconds as the job would, and score them beside ``reference``; works in its folder.

    Raises ``RheonError`` or ``Stopped``.
    """
    assert title.video is not None and settings.video is not None
    program, measure = measuring_engine()
    work = reference.parent
    made = work / "made.mkv"
    make_file(title, _short(title, settings, replace(settings.video, passes=1)), made, hooks)
    model = _model(viewing, title.video) if measure is Measure.VMAF else ""
    width, height = _seen(settings.video, viewing, model)
    comparison = Comparison(
        made=str(made),
        reference=str(reference),
        width=width,
        height=height,
        frame_rate=settings.video.frame_rate,
        model=model,
        log=LOG,
    )
    stop = hooks.should_stop if hooks else None
    argv = comparing_command(program, comparison)
    run(Command(argv=argv, timeout_s=TIMEOUT_S, gentle=True, cwd=str(work), should_stop=stop))
    scores = _scores(work / LOG, measure)
    seconds = sum(one.length_s for one in measured_stretches(title, settings))
    rate = made.stat().st_size * 8 / seconds
    made.unlink()
    return Fidelity(
        measure=measure,
        model=model,
        mean=round(_joined(scores, measure), 2),
        worst=round(_joined(sorted(scores)[: max(1, round(len(scores) * WORST_SHARE))], measure), 2),
        pictures=len(scores),
        seconds=round(seconds, 2),
        rate_bps=round(rate),
    )


def _short(title: Title, settings: OutputSettings, video: VideoSettings) -> OutputSettings:
    """Only the picture of the seconds that stand for the file."""
    stretches = measured_stretches(title, settings)
    return replace(
        settings,
        container="matroska",
        file_name="seconds.mkv",
        video=video,
        audio=(),
        subtitles=(),
        chapters=False,
        kept=stretches,
        middles=(),
        cut_as_copy=False,
        duration_s=sum(one.length_s for one in stretches),
    )


def _stored_size(video: VideoStream, made: VideoSettings) -> tuple[int, int]:
    """The stored pixels that are left by the crop, as they are turned."""
    cut = made.crop
    width, height = video.width - cut.left - cut.right, video.height - cut.top - cut.bottom
    if made.rotation % 180:
        width, height = height, width
    return width // 2 * 2, height // 2 * 2


def _model(viewing: Viewing, video: VideoStream) -> str:
    if viewing.in_hand:
        return PHONE_MODEL
    large = viewing.screen is not None and min(viewing.screen) >= UHD_SIDES[1] and video.height > HD_SIDES[1]
    return UHD_MODEL if large else HD_MODEL


def _seen(made: VideoSettings, viewing: Viewing, model: str) -> tuple[int, int]:
    """The size at which a picture fills the screen, up to what the model was made for."""
    most = UHD_SIDES if model == UHD_MODEL else HD_SIDES
    wide, high = viewing.screen or most
    wide, high = min(wide, most[0]), min(high, most[1])
    aspect = made.width * made.sample_aspect / made.height
    if wide / aspect <= high:
        return _even(Fraction(wide)), _even(wide / aspect)
    return _even(high * aspect), _even(Fraction(high))


def _even(side: Fraction) -> int:
    return max(2, 2 * round(side / 2))


def _scores(log: Path, measure: Measure) -> list[float]:
    """One of each picture that was scored. Raises ``EngineError`` where there is none."""
    text = log.read_text(encoding="utf-8")
    log.unlink()
    if measure is Measure.VMAF:
        found = [float(frame["metrics"]["vmaf"]) for frame in json.loads(text)["frames"]]
    else:
        found = [float(said) for said in re.findall(r" All:([\d.]+)", text)]
    if not found:
        raise EngineError("No pictures could be compared.", advice="")
    return found


def _joined(scores: list[float], measure: Measure) -> float:
    """The mean; likeness of structures as dB of what is unlike."""
    mean = sum(scores) / len(scores)
    if measure is Measure.VMAF:
        return mean
    return SAME_DB if mean >= 1 else min(SAME_DB, -10 * math.log10(1 - mean))


def quality_for(wanted: float, points: list[tuple[int, float]]) -> int | None:
    """The constant quality whose mean score is expected to be ``wanted``, between measured (quality, mean).

    ``None`` where nothing that was measured comes near enough for it to be told.
    """
    ordered = sorted(set(points))
    for (fine, high), (coarse, low) in itertools.pairwise(ordered):
        if low <= wanted <= high and high > low:
            return fine + round((high - wanted) / (high - low) * (coarse - fine))
    return None
