"""Some seconds of a file before it is made: by the job's own arguments, and as the source looks beside it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

from ..commands.viewing import Viewed, viewing_command
from ..engine import Command, probe, run
from ..errors import EngineError
from ..formats import CONTAINERS
from ..media import Action, AudioSettings, OutputSettings, SubtitleForm, SubtitleSettings, Title, VideoSettings
from ..media.kept import KeptRange, on_pictures
from .along import Following, Grown, seen_along, unseen
from .hooks import Hooks
from .run import make_file
from .seconds import only_seconds
from .source_side import for_stretch, of_source

LENGTH_S = 10.0
LEAST_S = 1.0
EXCERPT = "excerpt"
VIEW_TIMEOUT_S = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class ExcerptRequest:
    """A title, what is to be made of it, and from which of its moments (seconds) on.

    ``sound`` is the place of the sound that is heard among those of the file, ``subtitle`` of the subtitles that are
    switched on.
    """

    title: Title
    settings: OutputSettings
    from_s: float
    sound: int = 0
    subtitle: int | None = None


def excerpt_stretch(title: Title, from_s: float) -> KeptRange:
    """Where an excerpt begins and ends, on whole pictures. Raises ``NoSuchTitle`` where the title has nothing there."""
    begin_s = max(0.0, min(from_s, title.duration_s - LEAST_S))
    return on_pictures(title, KeptRange(from_s=begin_s, until_s=min(title.duration_s, begin_s + LENGTH_S)))


def make_excerpt(
    request: ExcerptRequest,
    target: Path,
    work: Path,
    hooks: Hooks | None = None,
    on_grown: Callable[[Grown], None] = unseen,
) -> None:
    """Write the seconds as they will be to ``target``, an MP4 file that any browser plays; ``work`` is an empty folder.

    A picture that is copied looks as on the source. ``on_grown`` is told how much can be seen meanwhile, where that is
    possible. Raises ``RheonError`` or ``Stopped``.
    """
    _check_tracks(request)
    made, stretch = _of_stretch(request)
    if made.video is not None and made.video.action is Action.COPY:
        made = _beside(made, of_source(request.title, made.video, stretch))
    made, hooks = replace(made, subtitles=_seen(request)), hooks or Hooks()
    if request.subtitle is not None:
        # lines are laid over the picture from the whole file
        short = _short(request, _beside(made, made.video), stretch)
        run(_viewing(_whole(request, short, work, hooks), target, heard=True))
        return
    short = _short(request, made, stretch)
    if CONTAINERS[short.container].own_times:
        # what others tell the encoder stays: they count pictures
        short = _beside(short, short.video)
    make = partial(make_file, request.title, short, read_along=True)
    seen_along(make, work / f"{EXCERPT}.mkv", target, Following(hooks, short.duration_s, on_grown))


def make_source_excerpt(request: ExcerptRequest, target: Path, work: Path, hooks: Hooks | None = None) -> None:
    """Write the same seconds as they look on the source, picture for picture beside ``make_excerpt``, without sound."""
    made, stretch = _of_stretch(request)
    if made.video is None:
        raise EngineError("There is no picture of the source to be shown beside this.", advice="")
    # read with the sound, as the other is: what is read decides what counts as the beginning
    beside = _beside(made, of_source(request.title, made.video, stretch))
    beside = replace(beside, subtitles=(), audio=tuple(map(_plain, made.audio)))
    short = _short(request, beside, stretch)
    run(_viewing(_whole(request, short, work, hooks), target, heard=False))


def _check_tracks(request: ExcerptRequest) -> None:
    made = request.settings
    known = request.sound < max(1, len(made.audio))
    if not known or (request.subtitle is not None and request.subtitle >= len(made.subtitles)):
        raise EngineError("The file will have no such track.", advice="")


def _of_stretch(request: ExcerptRequest) -> tuple[OutputSettings, KeptRange]:
    """What is made of the seconds, and which they are."""
    made, stretch = request.settings, excerpt_stretch(request.title, request.from_s)
    if made.video is None:
        return made, stretch
    return replace(made, video=for_stretch(request.title, made.video, made.kept, stretch)), stretch


def _seen(request: ExcerptRequest) -> tuple[SubtitleSettings, ...]:
    """What is drawn into the picture, or the track that is switched on."""
    made = request.settings
    if request.subtitle is None:
        return (made.drawn,) if made.drawn else ()
    wanted = made.subtitles[request.subtitle]
    kept = CONTAINERS["matroska"].text if wanted.is_text else request.title.subtitles[wanted.track].format
    return (replace(wanted, form=SubtitleForm.TRACK, format=kept or ""),)


def _beside(made: OutputSettings, video: VideoSettings | None) -> OutputSettings:
    """With another picture, in a container that holds whatever comes with it."""
    return replace(made, video=video, container="matroska", file_name=f"{EXCERPT}.mkv")


def _short(request: ExcerptRequest, made: OutputSettings, stretch: KeptRange) -> OutputSettings:
    """Only the stretch, and the one sound that is heard."""
    heard = made.audio[request.sound : request.sound + 1]
    if heard and heard[0].action is Action.COPY:
        # copied, it would decide where reading begins, for the picture too
        made, heard = _beside(made, made.video), (_plain(heard[0]),)
    return only_seconds(replace(made, audio=heard), (stretch,))


def _plain(sound: AudioSettings) -> AudioSettings:
    """As it is decoded: nothing before its beginning, as encoders that lose something have it."""
    return replace(sound, action=Action.ENCODE, codec="flac")


def _whole(request: ExcerptRequest, short: OutputSettings, work: Path, hooks: Hooks | None) -> Path:
    return make_file(request.title, short, work / short.file_name, hooks).part


def _viewing(part: Path, target: Path, *, heard: bool) -> Command:
    """What makes a file one that any browser plays."""
    found = probe(str(part))
    viewed = Viewed(
        path=str(part),
        video=found.video,
        audio=found.audio[:1] if heard else (),
        subtitle=next(iter(found.subtitles), None) if heard else None,
    )
    return Command(argv=viewing_command(viewed, str(target)), timeout_s=VIEW_TIMEOUT_S, cwd=str(part.parent))
