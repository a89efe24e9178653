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
from ..engine.packets import read_packets
from ..errors import EngineError
from ..formats import video_encoder
from ..media import Action, DynamicRange, Fields, OutputSettings, Title, VideoSettings, VideoStream, mark_of
from ..media.kept import KeptRange, moments_in, on_pictures
from .hooks import Hooks
from .measured_rate import Stretch, stretches_in
from .run import make_file
from .seconds import clear, even, only_seconds

WHOLE_S = 14.0
"""What is no longer is measured whole, in one turn."""
WORST_SHARE = 0.05
NEAR_LOSSLESS = 3
"""Constant quality of what the source is held as meanwhile: no model sees a difference."""
HD_SIDES, UHD_SIDES = (1920, 1080), (3840, 2160)
TIMEOUT_S = 240
SAME_DB = 60.0
"""SSIM in dB of pictures that are equal."""
LOG = "scores"


@dataclass(frozen=True, slots=True)
class Turn:
    """So many places of a title, for so many seconds each, after so many that are made before them and not scored; one
    of ``every`` so many pictures is judged.
    """

    places: int
    place_s: float
    lead_s: float = 0.0
    every: int = 3


WHOLE = Turn(1, WHOLE_S)
TURNS = (Turn(5, 0.6, every=5), Turn(4, 1.6, lead_s=2.0))
"""A title is measured in turns: the first says soon, of what is near key pictures, what the next one makes surer, of
what lies as far from them as most of a file does.
"""
TURNS_AT_A_RATE = (Turn(5, 0.6, lead_s=3.0, every=5), Turn(4, 1.6, lead_s=5.0))
"""Where an encoder knows no constant quality, its first pictures cost more than it was told until it has seen some."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Viewing:
    """Where a file is watched: the screen in pixels, ``None`` where nothing is known of it, and whether by hand."""

    screen: tuple[int, int] | None = None
    in_hand: bool = False

    def model_for(self, video: VideoStream) -> Model:
        """The model of how people judge a source's pictures there."""
        if self.in_hand:
            return Model.PHONE
        large = self.screen is not None and min(self.screen) >= UHD_SIDES[1] and video.height > HD_SIDES[1]
        return Model.UHD if large else Model.HD

    def size_of(self, made: VideoSettings, model: Model | None) -> tuple[int, int]:
        """The size at which a picture fills the screen, up to what the model was made for."""
        most = UHD_SIDES if model is Model.UHD else HD_SIDES
        wide, high = self.screen or most
        wide, high = min(wide, most[0]), min(high, most[1])
        aspect = made.width * made.sample_aspect / made.height
        if wide / aspect <= high:
            return even(Fraction(wide)), even(wide / aspect)
        return even(high * aspect), even(Fraction(high))


@dataclass(frozen=True, slots=True, kw_only=True)
class Fidelity:
    """The score of each picture that was held against the source, from ``seconds`` of the title, which take
    ``size_bytes`` and took ``made_s`` to make: by VMAF with ``model``; by SSIM where that is ``None``. ``stretches``
    are those that were made in one turn, also what of them was not scored.
    """

    model: Model | None
    scores: tuple[float, ...]
    seconds: float
    size_bytes: int
    made_s: float = 0.0
    stretches: tuple[Stretch, ...] = ()

    @property
    def mean(self) -> float:
        """Of VMAF; SSIM's in dB."""
        return _joined(self.scores, self.model)

    @property
    def worst(self) -> float:
        """The mean of the worst twentieth of the pictures."""
        return _joined(sorted(self.scores)[: max(1, round(len(self.scores) * WORST_SHARE))], self.model)


def together(turns: Sequence[Fidelity]) -> Fidelity:
    """What several turns found, as one."""
    return Fidelity(
        model=turns[0].model,
        scores=tuple(score for one in turns for score in one.scores),
        seconds=round(sum(one.seconds for one in turns), 2),
        size_bytes=sum(one.size_bytes for one in turns),
        made_s=sum(one.made_s for one in turns),
    )


def turns_of(title: Title, settings: OutputSettings) -> int:
    """In how many turns a file is measured."""
    return len(_turns(title, settings))


def _turns(title: Title, settings: OutputSettings) -> tuple[Turn, ...]:
    if sum(one.length_s for one in _kept(title, settings)) <= WHOLE_S:
        return (WHOLE,)
    return TURNS_AT_A_RATE if settings.video is not None and _settles_late(settings.video) else TURNS


def _settles_late(made: VideoSettings) -> bool:
    return made.quality is None and not video_encoder(made.codec, made.encoder).quality


def measured_stretches(title: Title, settings: OutputSettings, turn: int = 0) -> tuple[KeptRange, ...]:
    """The seconds that stand for a file in a turn: spread over what of the title goes into it, on whole pictures."""
    return tuple(one.stretch for one in _places(title, settings, turn))


@dataclass(frozen=True, slots=True)
class _Place:
    """A stretch that is made, of which the first ``lead_s`` seconds are not scored."""

    stretch: KeptRange
    lead_s: float = 0.0


def _places(title: Title, settings: OutputSettings, number: int) -> list[_Place]:
    kept = _kept(title, settings)
    if turns_of(title, settings) == 1:
        return [_Place(one) for one in kept]
    turn, found = _turns(title, settings)[number], []
    for moment_s, one in moments_in(kept, turn.places):
        begin_s = min(moment_s, max(one.from_s, one.until_s - turn.place_s))
        end_s = min(one.until_s, begin_s + turn.place_s)
        stretch = on_pictures(title, KeptRange(from_s=max(one.from_s, begin_s - turn.lead_s), until_s=end_s))
        found.append(_Place(stretch, lead_s=max(0.0, begin_s - stretch.from_s) if turn.lead_s else 0.0))
    return found


def _scored(places: Sequence[_Place]) -> tuple[tuple[float, float], ...]:
    """From when until when what is made of them is scored, in its own seconds."""
    found, at_s = [], 0.0
    for one in places:
        found.append((at_s + one.lead_s, at_s + one.stretch.length_s))
        at_s += one.stretch.length_s
    return tuple(found)


def _kept(title: Title, settings: OutputSettings) -> tuple[KeptRange, ...]:
    return settings.kept or (KeptRange(from_s=0, until_s=title.duration_s),)


def is_measurable(title: Title, settings: OutputSettings) -> bool:
    """Whether the picture is made anew from one source, at one rate, in the range that the models were made for."""
    made = settings.video
    if made is None or made.action is not Action.ENCODE or title.joined:
        return False
    if made.variable_rate and made.fields is not Fields.MATCH:
        return False
    return made.colour is None or made.colour.dynamic_range is DynamicRange.STANDARD


@dataclass(frozen=True, slots=True, kw_only=True)
class Reference:
    """The source's side of a turn and the file in which it is: which seconds of the title, what of them is scored, and
    one of ``every`` so many pictures.
    """

    path: Path
    places: tuple[_Place, ...] = ()
    every: int = WHOLE.every

    @property
    def stretches(self) -> tuple[KeptRange, ...]:
        return tuple(one.stretch for one in self.places)


def reference_settings(title: Title, settings: OutputSettings, turn: int = 0) -> OutputSettings:
    """How the source's side is made: alike for all settings that can be held against the same one."""
    assert title.video is not None and settings.video is not None
    source = clear(settings.video, _left_by_crop(title.video, settings.video), NEAR_LOSSLESS)
    return _short(settings, source, measured_stretches(title, settings, turn))


def reference_in(
    folder: Path, title: Title, settings: OutputSettings, turn: int = 0, hooks: Hooks | None = None
) -> Reference:
    """The source's side: the same pictures, cropped, in fields and colours as they will be, in all the source's size.

    A Matroska file, made once in ``folder`` for all settings that can be held against it. Raises ``RheonError`` or
    ``Stopped``.
    """
    made = reference_settings(title, settings, turn)
    own = folder / mark_of(made)
    own.mkdir(exist_ok=True)
    places = tuple(_places(title, settings, turn))
    reference = Reference(path=own / "source.mkv", places=places, every=_turns(title, settings)[turn].every)
    if not reference.path.exists():
        make_file(title, made, reference.path, hooks)
    return reference


def measure_fidelity(
    title: Title, settings: OutputSettings, viewing: Viewing, reference: Reference, hooks: Hooks | None = None
) -> Fidelity:
    """Make the seconds of ``reference`` as the job would, and score them beside it; works in its folder.

    Raises ``RheonError`` or ``Stopped``.
    """
    assert title.video is not None and settings.video is not None
    vmaf = vmaf_engine()
    work = reference.path.parent
    made = work / "made.mkv"
    took_s = make_file(title, _short(settings, settings.video, reference.stretches), made, hooks).seconds
    scored = _scored(reference.places)
    model = viewing.model_for(title.video) if vmaf else None
    width, height = viewing.size_of(settings.video, model)
    comparison = Comparison(
        made=str(made),
        reference=str(reference.path),
        width=width,
        height=height,
        frame_rate=settings.video.frame_rate,
        model=model,
        log=LOG,
        of_fields=settings.video.fields is Fields.KEEP,
        scored=scored if any(one.lead_s for one in reference.places) else (),
        every=reference.every,
    )
    scores = scores_of(comparison, work, vmaf or "ffmpeg", hooks)
    size_bytes = made.stat().st_size
    stretches = stretches_in(read_packets(str(made))[0], [one.length_s for one in reference.stretches])
    made.unlink()
    return Fidelity(
        model=model,
        scores=scores,
        seconds=round(sum(until_s - from_s for from_s, until_s in scored), 2),
        size_bytes=size_bytes,
        made_s=took_s,
        stretches=stretches,
    )


def scores_of(
    comparison: Comparison, work: Path, program: str = "ffmpeg", hooks: Hooks | None = None
) -> tuple[float, ...]:
    """The score of each picture that was held against the reference, in ``work``. Raises ``RheonError``."""
    stop = hooks.should_stop if hooks else None
    argv = comparing_command(program, comparison)
    run(Command(argv=argv, timeout_s=TIMEOUT_S, gentle=True, cwd=str(work), should_stop=stop))
    return _scores(work / comparison.log, comparison.model)


def _short(settings: OutputSettings, video: VideoSettings, stretches: Sequence[KeptRange]) -> OutputSettings:
    """Only the picture of some seconds, at a steady rate."""
    video = replace(video, variable_rate=False)
    alone = replace(settings, container="matroska", file_name="seconds.mkv", video=video, audio=(), subtitles=())
    return only_seconds(alone, stretches)


def _left_by_crop(video: VideoStream, made: VideoSettings) -> tuple[int, int]:
    """The stored pixels that are left by the crop, as they are turned."""
    cut = made.crop.turned(made.rotation)
    width, height = replace(video, rotation=made.rotation).upright_size
    return (width - cut.left - cut.right) // 2 * 2, (height - cut.top - cut.bottom) // 2 * 2


def _scores(log: Path, model: Model | None) -> tuple[float, ...]:
    """One of each picture that was scored. Raises ``EngineError`` where there is none."""
    text = log.read_text(encoding="utf-8")
    log.unlink()
    if model is not None:
        found = [float(frame["metrics"]["vmaf"]) for frame in json.loads(text)["frames"]]
    else:
        found = [float(said) for said in re.findall(r" All:([\d.]+)", text)]
    if not found:
        raise EngineError("No pictures could be compared.", advice="")
    return tuple(found)


def _joined(scores: Sequence[float], model: Model | None) -> float:
    """The mean; likeness of structures as dB of what is unlike."""
    mean = sum(scores) / len(scores)
    if model is None:
        mean = SAME_DB if mean >= 1 else min(SAME_DB, -10 * math.log10(1 - mean))
    return round(mean, 2)
