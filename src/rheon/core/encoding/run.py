"""Carrying a plan out: one engine process, a temporary file beside the target, nothing left behind on failure."""

from __future__ import annotations

import json
import shutil
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path

from ..commands.making import Job, build_command, chapters_document, drawn_command, parts_document
from ..commands.names import CHAPTERS_FILE, PARTS_FILE, PICTURE_PIPE, part_link, pipe_name, subtitle_file
from ..commands.probing import parts_starts
from ..engine import Command, Feed, WorkClock, never, require, run
from ..errors import (
    EngineError,
    RateTooLow,
    SourceChanged,
    SourceError,
    SourceMissing,
    TargetError,
    TargetFull,
    TargetReadOnly,
)
from ..media import Action, CellData, FileData, OutputSettings, Title
from ..media.joined import as_one
from ..media.kept import kept_title, pieces_of
from ..sources.material.feed import feed_title, subtitle_packets
from ..sources.material.seek import narrowed
from ..subtitles import lay_out
from ..system import check_inside
from .edges import Splicing, edged_pictures
from .liveness import Liveness
from .parts import PART_PREFIX, remove_part
from .progress import Progress, ProgressReader
from .seams import smooth_seams
from .texts import with_cut_texts

LEAST_FREE_BYTES = 8 << 20
LAST_PASS, MOST_AGAIN = 2, 2
SHORT_S = 300.0
NEAR_SIZE, FAR_SIZE = 0.01, 0.25
"""Shares of a size that was asked for: as near as it need be, and so far that the rate is not what missed it."""
MOST_DAMAGE = 200
PARTS_TIMEOUT_S = 60
MEANS_LOSS = (
    "ended prematurely", "corrupt", "concealing", "partial file", "Truncat", "truncated", "Invalid data",
    "non monotonically", "Error while decoding",
)  # fmt: skip
"""What the engine says where something of the source could not be read or decoded."""
AT_THE_END = ("ended prematurely", "partial file", "Truncat", "truncated")
"""Those of them that are about the end of a file, whenever they are said."""


def _unheard(progress: Progress) -> None:
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Hooks:
    """How a conversion tells where it is, and is told to stop, or by its ``clock`` to pause."""

    on_progress: Callable[[Progress], None] = _unheard
    should_stop: Callable[[], bool] = never
    clock: WorkClock = field(default_factory=WorkClock)


@dataclass(frozen=True, slots=True, kw_only=True)
class Made:
    """A finished but unchecked file under its temporary name, and how long the engine took.

    ``damage`` is what it complained of that means loss: (second of the title, what it said).
    """

    part: Path
    seconds: float
    damage: tuple[tuple[float, str], ...] = ()


def make_file(title: Title, settings: OutputSettings, part: Path, hooks: Hooks | None = None) -> Made:
    """Make the file at ``part``, of the whole title or of its kept stretches.

    Raises ``TargetError``, ``SourceMissing``, ``EngineError`` or ``Stopped``; the file is removed then.
    """
    require("ffmpeg")
    hooks = hooks or Hooks()
    check_source(title)
    check_target(part.parent)
    started_s = hooks.clock.worked_s
    before = _identities(title)
    damage: list[tuple[float, str]] = []
    try:
        with tempfile.TemporaryDirectory(prefix="rheon-") as folder:
            job = _job(with_cut_texts(title, settings, Path(folder)), settings, part)
            _lay_out(Path(folder), job)
            job = replace(job, parts_late_s=_parts_late_s(Path(folder), job), smooth=smooth_seams(job))
            _lay_out_drawn(folder, job, hooks)
            following = _Followed(hooks=hooks, damage=damage, began_s=started_s)
            job, pictures = _with_edges(title, job, Path(folder), following)
            for at_pass in _passes(settings):
                run(_command(job, folder, following, at_pass, pictures))
            if pictures is None:
                _come_nearer(job, folder, following)
        if _identities(title) != before:
            raise SourceChanged("{title} was changed while it was being read.", title=_named(title))
        if not part.exists() or part.stat().st_size == 0:
            raise EngineError("The engine wrote nothing.")
    except EngineError as error:
        remove_part(part)
        raise _explained(error, Job(title=title, settings=settings, target=str(part)), before) from error
    except BaseException:
        remove_part(part)
        raise
    return Made(part=part, seconds=hooks.clock.worked_s - started_s, damage=tuple(damage[:MOST_DAMAGE]))


def _job(title: Title, settings: OutputSettings, part: Path) -> Job:
    if title.joined and isinstance(title.data, CellData) and settings.video and settings.video.action is Action.COPY:
        return Job(title=as_one(title), settings=settings, target=str(part))
    pieces = pieces_of(title, settings.kept)
    together = kept_title(title, settings.kept)
    # sound that is made anew beside copied pictures is cut to the sample, as a piece is
    anew = bool(settings.middles) and all(sound.action is Action.ENCODE for sound in settings.audio)
    apart = len(pieces) > 1 or bool(title.joined) or (anew and bool(settings.audio))
    return Job(title=together, settings=settings, target=str(part), pieces=pieces if apart else ())


def _with_edges(title: Title, job: Job, folder: Path, following: _Followed) -> tuple[Job, Feed | None]:
    """The job with its pictures as they come on a pipe of their own, where they are copied between encoded edges."""
    if not job.has_edges:
        return job, None
    splicing = Splicing(
        job=job,
        folder=folder,
        feed=_feed,
        should_stop=following.hooks.should_stop,
        is_paused=following.hooks.clock.is_paused,
        on_complaint=lambda text: following.hear(text, 0.0),
    )
    made = edged_pictures(title, splicing)
    return replace(job, picture_at_s=made.first_s), made.feed


def _identities(title: Title) -> dict[str, tuple[int, int] | None]:
    """Size and last change of the title's files; ``None`` for one that is gone."""
    found: dict[str, tuple[int, int] | None] = {}
    for path, _ in _needed(title):
        try:
            stat = Path(path).stat()
        except OSError:
            found[path] = None
        else:
            found[path] = (stat.st_size, stat.st_mtime_ns)
    return found


def _named(title: Title) -> str:
    return Path(_needed(title)[0][0]).name


def check_source(title: Title) -> None:
    """Raises ``SourceMissing`` where the title's files are not there any more, or are shorter than they were,
    and ``SourceChanged`` where a file is another one than was scanned.
    """
    for part in title.joined or (title,):
        # a part of a join that is cut to its pictures is its whole file all the same
        whole = part.part_of is None or (bool(title.joined) and part.part_of == part.number)
        _check_files(part, whole=whole)


def _check_files(title: Title, *, whole: bool) -> None:
    for path, end_bytes in _needed(title):
        try:
            size = check_inside(path)
        except OSError as error:
            raise SourceMissing("{file} is not there any more.", file=Path(path).name) from error
        if size < end_bytes:
            raise SourceMissing("{file} is shorter than it was when it was scanned.", file=Path(path).name)
        if isinstance(title.data, FileData) and whole and size != title.size_bytes:
            raise SourceChanged("{file} is not what it was when it was scanned.", file=Path(path).name)


def check_target(folder: Path) -> None:
    """Raises ``TargetError``, ``TargetReadOnly`` or ``TargetFull`` where nothing could be written."""
    if not folder.is_dir():
        raise TargetError("The folder {folder} does not exist.", folder=folder)
    try:
        with tempfile.TemporaryFile(dir=folder, prefix=PART_PREFIX):
            pass
    except PermissionError as error:
        raise TargetReadOnly("The folder {folder} may not be written to.", folder=folder) from error
    except OSError as error:
        raise TargetReadOnly(
            "The folder {folder} can't be written to: {reason}.", folder=folder, reason=error.strerror
        ) from error
    if shutil.disk_usage(folder).free < LEAST_FREE_BYTES:
        raise TargetFull("The disk that holds {folder} is full.", folder=folder)


def _needed(title: Title) -> list[tuple[str, int]]:
    if title.joined:
        return [needed for part in title.joined for needed in _needed(part)]
    if isinstance(title.data, FileData):
        return [(title.data.path, 1)]
    return [(extent.path, extent.offset_bytes + extent.length_bytes) for extent in title.data.extents]


def _lay_out(folder: Path, job: Job) -> None:
    """What the engine needs beside its input: chapters, and the source under a name that needs no escaping."""
    if job.copies_parts:
        _lay_out_parts(folder, job)
    if job.carries_chapters:
        text = chapters_document(job.title.chapters, job.title.duration_s)
        (folder / CHAPTERS_FILE).write_text(text, encoding="utf-8")
    for subtitle in job.settings.subtitles:
        if not (folder / subtitle_file(subtitle.track)).exists():
            lay_out(job.title, subtitle.track, folder)


def _lay_out_parts(folder: Path, job: Job) -> None:
    for number, piece in enumerate(job.pieces):
        assert isinstance(piece.data, FileData)
        (folder / part_link(number)).symlink_to(piece.data.path)
    (folder / PARTS_FILE).write_text(parts_document(job), encoding="utf-8")


def _parts_late_s(folder: Path, job: Job) -> float:
    if not job.copies_parts or all(sound.action is Action.COPY for sound in job.settings.audio):
        return 0.0
    said = json.loads(run(Command(argv=parts_starts(), timeout_s=PARTS_TIMEOUT_S, cwd=str(folder))).stdout or b"{}")
    place = job.title.video.place if job.title.video else None
    starts = [one.get("start_time") for one in said.get("streams", []) if one.get("index") == place]
    try:
        return float(starts[0]) - float(said["format"]["start_time"])
    except (IndexError, KeyError, TypeError, ValueError):
        return 0.0


def _lay_out_drawn(folder: str, job: Job, hooks: Hooks) -> None:
    """The subtitle pictures to draw, in a file of their own for each piece."""
    for piece in job.each:
        _lay_out_piece(folder, piece, hooks)


def _lay_out_piece(folder: str, job: Job, hooks: Hooks) -> None:
    drawn, data = job.settings.drawn, job.title.data
    if drawn is None or drawn.is_text or job.title.subtitles[drawn.track].absent:
        return
    stream_id = job.title.subtitles[drawn.track].stream_id
    feed: Feed | None = None
    if isinstance(data, CellData) and stream_id is not None:
        wanted = stream_id
        feed = lambda: subtitle_packets(data, wanted)  # noqa: E731
    run(
        Command(
            argv=drawn_command(job),
            timeout_s=None,
            gentle=True,
            feed=feed,
            cwd=folder,
            should_stop=hooks.should_stop,
            is_paused=hooks.clock.is_paused,
        )
    )


def _passes(settings: OutputSettings) -> tuple[int, ...]:
    return (1, LAST_PASS) if settings.video and settings.video.passes == LAST_PASS else (0,)


def _come_nearer(job: Job, folder: str, following: _Followed) -> None:
    """Make a short file's last pass again where its size missed the one that was asked for: rate control needs time."""
    video, asked_bytes, lasts_s = job.settings.video, job.settings.asked_bytes, job.title.duration_s
    if video is None or video.bitrate_bps is None or video.passes != LAST_PASS or not asked_bytes or lasts_s > SHORT_S:
        return
    # it is all made already for those who watch; what was complained of comes once more
    quiet = replace(following, hooks=replace(following.hooks, on_progress=_unheard))
    rate = float(video.bitrate_bps)
    for _ in range(MOST_AGAIN):
        missed_bytes = asked_bytes - Path(job.target).stat().st_size
        if not NEAR_SIZE < abs(missed_bytes) / asked_bytes < FAR_SIZE:
            return
        rate = max(rate / 2, rate + missed_bytes * 8 / lasts_s)
        nearer = replace(job, settings=replace(job.settings, video=replace(video, bitrate_bps=int(rate))))
        following.damage.clear()
        try:
            run(_command(nearer, folder, quiet, LAST_PASS, None))
        except EngineError:
            following.damage.clear()
            run(_command(job, folder, quiet, LAST_PASS, None))
            return


@dataclass(frozen=True, slots=True, kw_only=True)
class _Followed:
    """Who is told how far the engine is, where its complaints are gathered, and when by their clock it began."""

    hooks: Hooks
    damage: list[tuple[float, str]]
    began_s: float

    def hear(self, text: str, at_s: float) -> None:
        if any(word in text for word in MEANS_LOSS):
            self.damage.append((at_s, text[:200]))


def _command(job: Job, folder: str, following: _Followed, at_pass: int, pictures: Feed | None) -> Command:
    hooks, reached = following.hooks, [0.0]
    video = job.settings.video
    steady = video is not None and not video.variable_rate
    rate = float(video.frame_rate) if video and steady else None
    reader = ProgressReader(job.title.duration_s, hooks.clock, following.began_s, at_pass, rate)
    liveness = Liveness(hooks.clock, in_hardware=video is not None and bool(video.device))

    def should_stop() -> bool:
        liveness.look()
        return hooks.should_stop()

    def on_line(text: str) -> None:
        if progress := reader.line(text):
            reached[0] = progress.done
            liveness.came_to(progress)
            hooks.on_progress(progress)

    def on_complaint(text: str) -> None:
        # the first of two passes meets the same places
        if at_pass != 1:
            at_end = any(word in text for word in AT_THE_END)
            following.hear(text, job.title.duration_s if at_end else reached[0])

    feeds = {**_feeds(job), **({PICTURE_PIPE: pictures} if pictures else {})}
    return Command(
        argv=build_command(job, at_pass),
        timeout_s=None,
        gentle=True,
        feed=feeds.pop(pipe_name(0), None),
        feeds=feeds,
        cwd=folder,
        on_line=on_line,
        on_complaint=on_complaint,
        should_stop=should_stop,
        is_paused=hooks.clock.is_paused,
    )


def _feeds(job: Job) -> dict[str, Feed]:
    """What comes on pipes: a disc's title, or each of its pieces, by the pipe's name."""
    return {pipe_name(piece.number): feed for piece in job.each if (feed := _feed(piece)) is not None}


def _feed(job: Job) -> Feed | None:
    data = job.title.data
    if not isinstance(data, CellData):
        return None
    part = job.title.part_of is not None

    def feed() -> Iterator[bytes]:
        needed = narrowed(data, job.title.duration_s) if part else data
        return feed_title(needed, job.subpictures, job.cores, leads=job.decodes_picture, part=part)

    return feed


def _explained(error: EngineError, job: Job, before: dict[str, tuple[int, int] | None]) -> Exception:
    """What really happened behind an engine that failed."""
    title, folder = job.title, Path(job.target).parent
    tail = error.facts.get("tail")
    said = " ".join(map(str, tail)) if isinstance(tail, list) else ""
    if "No space left" in said:
        return TargetFull("The disk that holds {folder} became full.", folder=folder)
    if "File too large" in said:
        return TargetError("The file became larger than the disk that holds {folder} takes.", folder=folder)
    if "Read-only file system" in said:
        return TargetReadOnly("The folder {folder} can't be written to any more.", folder=folder)
    if not folder.is_dir():
        return TargetError("The folder {folder} went away while the file was being written.", folder=folder)
    try:
        check_source(title)
    except SourceError as missing:
        return missing
    if _identities(title) != before:
        return SourceChanged("{title} was changed while it was being read.", title=_named(title))
    made = job.settings.video
    if "bitrate too low" in said and made is not None and made.bitrate_bps is not None:
        return RateTooLow(
            "The encoder can't make this picture of {width}×{height} at {kbps:.0f} kb/s.",
            width=made.width,
            height=made.height,
            kbps=made.bitrate_bps / 1000,
            argv=error.facts.get("argv"),
            tail=tail,
        )
    return error
