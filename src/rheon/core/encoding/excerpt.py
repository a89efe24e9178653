"""Some seconds of a file before it is made: by the job's own arguments, and as the source looks beside it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

from ..commands.tone_mapping import SCREEN
from ..commands.viewing import Viewed, viewing_command
from ..engine import Command, probe, run
from ..errors import EngineError
from ..media import Action, Borders, DynamicRange, Fields, OutputSettings, Scan, Title, VideoSettings, VideoStream
from ..media.kept import KeptRange, on_pictures
from .run import Hooks, make_file
from .seconds import clear, even, only_seconds

LENGTH_S = 10.0
LEAST_S = 1.0
MOST_LINES = 1080
CLEAR = 14
"""Constant quality at which nobody sees a difference to the source."""
EXCERPT = "excerpt"
WHOLE = {Scan.INTERLACED: Fields.JOIN, Scan.MIXED: Fields.MATCH}
"""How fields become whole frames to be looked at."""
VIEW_TIMEOUT_S = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class ExcerptRequest:
    """A title, what is to be made of it, and from which of its moments (seconds) on."""

    title: Title
    settings: OutputSettings
    from_s: float


def excerpt_stretch(title: Title, from_s: float) -> KeptRange:
    """Where an excerpt begins and ends, on whole pictures. Raises ``NoSuchTitle`` where the title has nothing there."""
    begin_s = max(0.0, min(from_s, title.duration_s - LEAST_S))
    return on_pictures(title, KeptRange(from_s=begin_s, until_s=min(title.duration_s, begin_s + LENGTH_S)))


def make_excerpt(request: ExcerptRequest, target: Path, work: Path, hooks: Hooks | None = None) -> None:
    """Write the seconds as they will be to ``target``, an MP4 file that any browser plays; ``work`` is an empty folder.

    A picture that is copied looks as on the source. Raises ``RheonError`` or ``Stopped``.
    """
    made = request.settings
    if made.video is not None and made.video.action is Action.COPY:
        made = _beside(made, _of_source(request.title, made.video))
    drawn = (made.drawn,) if made.drawn else ()
    run(_viewing(_made(request, replace(made, subtitles=drawn), work, hooks), target, heard=True))


def make_source_excerpt(request: ExcerptRequest, target: Path, work: Path, hooks: Hooks | None = None) -> None:
    """Write the same seconds as they look on the source, picture for picture beside ``make_excerpt``, without sound."""
    made = request.settings
    if made.video is None or request.title.joined:
        raise EngineError("There is no picture of the source to be shown beside this.", advice="")
    # read with the sound, as the other is: what is read decides what counts as the beginning
    beside = _beside(made, _of_source(request.title, made.video))
    run(_viewing(_made(request, replace(beside, subtitles=()), work, hooks), target, heard=False))


def _beside(made: OutputSettings, video: VideoSettings | None) -> OutputSettings:
    """With another picture, in a container that holds whatever comes with it."""
    return replace(made, video=video, container="matroska", file_name=f"{EXCERPT}.mkv")


def _made(request: ExcerptRequest, made: OutputSettings, work: Path, hooks: Hooks | None) -> Path:
    stretch = excerpt_stretch(request.title, request.from_s)
    if made.sound is not None and made.sound.action is Action.COPY:
        # copied, it would decide where reading begins, for the picture too
        plain = replace(made.sound, action=Action.ENCODE, codec="flac")
        made = replace(_beside(made, made.video), audio=(plain,))
    short = only_seconds(replace(made, audio=made.audio[:1]), (stretch,))
    return make_file(request.title, short, work / made.file_name, hooks).part


def _viewing(part: Path, target: Path, *, heard: bool) -> Command:
    """What makes a file one that any browser plays."""
    found = probe(str(part))
    viewed = Viewed(path=str(part), video=found.video, audio=found.audio[:1] if heard else ())
    return Command(argv=viewing_command(viewed, str(target)), timeout_s=VIEW_TIMEOUT_S)


def _of_source(title: Title, made: VideoSettings) -> VideoSettings:
    """The whole picture in the source's size, square pixels and own colours, at the times of what will be made."""
    video = title.video
    assert video is not None
    lines = min(MOST_LINES, video.upright_size[1])
    shown = made if made.action is Action.ENCODE else _timed(video, made)
    if shown.fields is Fields.KEEP:
        shown = replace(shown, fields=Fields.JOIN)
    bright = video.dynamic_range is not DynamicRange.STANDARD
    return replace(
        clear(shown, (even(lines * video.display_aspect), even(Fraction(lines))), CLEAR),
        crop=Borders(),
        rotation=video.rotation,
        rotation_from=video.rotation,
        colour=SCREEN if bright else video.colour,
        colour_from=video.colour if bright else None,
    )


def _timed(video: VideoStream, made: VideoSettings) -> VideoSettings:
    return replace(
        made,
        frame_rate=video.frame_rate,
        variable_rate=video.variable_rate,
        fields=WHOLE.get(video.scan, Fields.LEAVE),
        top_field_first=video.top_field_first,
    )
