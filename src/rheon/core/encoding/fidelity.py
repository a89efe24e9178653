"""How much of a title's picture a file keeps: seconds of it are made and held against the source, as both are seen."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

from ..commands.comparing import Comparison, Model, comparing_command
from ..engine import Command, run, vmaf_engine
from ..errors import EngineError
from ..media import Action, DynamicRange, Fields, OutputSettings, Title, VideoSettings, VideoStream
from ..media.kept import KeptRange, moments_in, on_pictures
from .run import Hooks, make_file
from .seconds import clear, even, only_seconds

PLACES, PLACE_S = 5, 1.6
WORST_SHARE = 0.05
NEAR_LOSSLESS = 3
"""Constant quality of what the source is held as meanwhile: no model sees a difference."""
HD_SIDES, UHD_SIDES = (1920, 1080), (3840, 2160)
TIMEOUT_S = 240
SAME_DB = 60.0
"""SSIM in dB of pictures that are equal."""
LOG = "scores"


@dataclass(frozen=True, slots=True, kw_only=True)
class Viewing:
    """Where a file is watched: the screen in pixels, ``None`` where nothing is known of it, and whether by hand."""

    screen: tuple[int, int] | None = None
    in_hand: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Fidelity:
    """Mean score and that of the worst twentieth of the pictures, of so many pictures from ``seconds`` of the title,
    which take ``size_bytes``.

    By VMAF with ``model``; by SSIM in dB where that is ``None``.
    """

    model: Model | None
    mean: float
    worst: float
    pictures: int
    seconds: float
    size_bytes: int


def measured_stretches(title: Title, settings: OutputSettings) -> tuple[KeptRange, ...]:
    """The seconds that stand for a file: spread over what of the title goes into it, on whole pictures."""
    kept = settings.kept or (KeptRange(from_s=0, until_s=title.duration_s),)
    length_s = sum(one.length_s for one in kept)
    if length_s <= 2 * PLACES * PLACE_S:
        return kept
    found = []
    for moment_s, one in moments_in(kept, PLACES):
        begin_s = min(moment_s, max(one.from_s, one.until_s - PLACE_S))
        end_s = min(one.until_s, begin_s + PLACE_S)
        found.append(on_pictures(title, KeptRange(from_s=begin_s, until_s=end_s)))
    return tuple(found)


def is_measurable(title: Title, settings: OutputSettings) -> bool:
    """Whether the picture is made anew from one source, at one rate, in the range that the models were made for."""
    made = settings.video
    if made is None or made.action is not Action.ENCODE or title.joined:
        return False
    if made.variable_rate and made.fields is not Fields.MATCH:
        return False
    return made.colour is None or made.colour.dynamic_range is DynamicRange.STANDARD


def reference_settings(title: Title, settings: OutputSettings) -> OutputSettings:
    """How the source's side is made: alike for all settings that can be held against the same one."""
    assert title.video is not None and settings.video is not None
    return _short(title, settings, clear(settings.video, _left_by_crop(title.video, settings.video), NEAR_LOSSLESS))


def make_reference(title: Title, settings: OutputSettings, target: Path, hooks: Hooks | None = None) -> None:
    """The source's side: the same pictures, cropped, in fields and colours as they will be, in all the source's size.

    A Matroska file. Raises ``RheonError`` or ``Stopped``.
    """
    make_file(title, reference_settings(title, settings), target, hooks)


def measure_fidelity(
    title: Title, settings: OutputSettings, viewing: Viewing, reference: Path, hooks: Hooks | None = None
) -> Fidelity:
    """Make the seconds as the job would, and score them beside ``reference``; works in its folder.

    Raises ``RheonError`` or ``Stopped``.
    """
    assert title.video is not None and settings.video is not None
    vmaf = vmaf_engine()
    work = reference.parent
    made = work / "made.mkv"
    make_file(title, _short(title, settings, settings.video), made, hooks)
    model = _model(viewing, title.video) if vmaf else None
    width, height = _seen(settings.video, viewing, model)
    comparison = Comparison(
        made=str(made),
        reference=str(reference),
        width=width,
        height=height,
        frame_rate=settings.video.frame_rate,
        model=model,
        log=LOG,
        of_fields=settings.video.fields is Fields.KEEP,
    )
    stop = hooks.should_stop if hooks else None
    argv = comparing_command(vmaf or "ffmpeg", comparison)
    run(Command(argv=argv, timeout_s=TIMEOUT_S, gentle=True, cwd=str(work), should_stop=stop))
    scores = sorted(_scores(work / LOG, model))
    size_bytes = made.stat().st_size
    made.unlink()
    return Fidelity(
        model=model,
        mean=round(_joined(scores, model), 2),
        worst=round(_joined(scores[: max(1, round(len(scores) * WORST_SHARE))], model), 2),
        pictures=len(scores),
        seconds=round(sum(one.length_s for one in measured_stretches(title, settings)), 2),
        size_bytes=size_bytes,
    )


def _short(title: Title, settings: OutputSettings, video: VideoSettings) -> OutputSettings:
    """Only the picture of the seconds that stand for the file, at a steady rate."""
    video = replace(video, variable_rate=False)
    alone = replace(settings, container="matroska", file_name="seconds.mkv", video=video, audio=(), subtitles=())
    return only_seconds(alone, measured_stretches(title, settings))


def _left_by_crop(video: VideoStream, made: VideoSettings) -> tuple[int, int]:
    """The stored pixels that are left by the crop, as they are turned."""
    cut = made.crop.turned(made.rotation)
    width, height = replace(video, rotation=made.rotation).upright_size
    return (width - cut.left - cut.right) // 2 * 2, (height - cut.top - cut.bottom) // 2 * 2


def _model(viewing: Viewing, video: VideoStream) -> Model:
    if viewing.in_hand:
        return Model.PHONE
    large = viewing.screen is not None and min(viewing.screen) >= UHD_SIDES[1] and video.height > HD_SIDES[1]
    return Model.UHD if large else Model.HD


def _seen(made: VideoSettings, viewing: Viewing, model: Model | None) -> tuple[int, int]:
    """The size at which a picture fills the screen, up to what the model was made for."""
    most = UHD_SIDES if model is Model.UHD else HD_SIDES
    wide, high = viewing.screen or most
    wide, high = min(wide, most[0]), min(high, most[1])
    aspect = made.width * made.sample_aspect / made.height
    if wide / aspect <= high:
        return even(Fraction(wide)), even(wide / aspect)
    return even(high * aspect), even(Fraction(high))


def _scores(log: Path, model: Model | None) -> list[float]:
    """One of each picture that was scored. Raises ``EngineError`` where there is none."""
    text = log.read_text(encoding="utf-8")
    log.unlink()
    if model is not None:
        found = [float(frame["metrics"]["vmaf"]) for frame in json.loads(text)["frames"]]
    else:
        found = [float(said) for said in re.findall(r" All:([\d.]+)", text)]
    if not found:
        raise EngineError("No pictures could be compared.", advice="")
    return found


def _joined(scores: Sequence[float], model: Model | None) -> float:
    """The mean; likeness of structures as dB of what is unlike."""
    mean = sum(scores) / len(scores)
    if model is not None:
        return mean
    return SAME_DB if mean >= 1 else min(SAME_DB, -10 * math.log10(1 - mean))
