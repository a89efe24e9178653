"""Carrying a plan out: one engine process, a temporary file beside the target, nothing left behind on failure."""

from __future__ import annotations

import json
import shutil
import tempfile
from dataclasses import dataclass, replace
from pathlib import Path

from ..commands.making import Job, chapters_document, drawn_command, parts_document
from ..commands.names import CHAPTERS_FILE, PARTS_FILE, part_link, subtitle_file
from ..commands.probing import parts_starts
from ..engine import Command, Feed, require, run
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
from ..sources.material.feed import subtitle_packets
from ..subtitles import lay_out
from ..system import check_inside
from .edges import Splicing, edged_pictures
from .hooks import Hooks
from .parts import PART_PREFIX, remove_part
from .passes import Followed, feed_of, make_passes
from .seams import smooth_seams
from .texts import with_cut_texts

LEAST_FREE_BYTES = 8 << 20
MOST_DAMAGE = 200
PARTS_TIMEOUT_S = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Made:
    """A finished but unchecked file under its temporary name, and how long the engine took.

    ``damage`` is what it complained of that means loss: (second of the title, what it said).
    """

    part: Path
    seconds: float
    damage: tuple[tuple[float, str], ...] = ()


def make_file(
    title: Title, settings: OutputSettings, part: Path, hooks: Hooks | None = None, *, read_along: bool = False
) -> Made:
    """Make the file at ``part``, of the whole title or of its kept stretches; with ``read_along`` what would be in
    it, in a Matroska file that can be read while it is written.

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
            job = replace(job, read_along=read_along)
            _lay_out(Path(folder), job)
            job = replace(job, parts_late_s=_parts_late_s(Path(folder), job), smooth=smooth_seams(job))
            _lay_out_drawn(folder, job, hooks)
            following = Followed(hooks=hooks, damage=damage, began_s=started_s)
            job, pictures = _with_edges(title, job, Path(folder), following)
            make_passes(job, folder, following, pictures)
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


def _with_edges(title: Title, job: Job, folder: Path, following: Followed) -> tuple[Job, Feed | None]:
    """The job with its pictures as they come on a pipe of their own, where they are copied between encoded edges."""
    if not job.has_edges:
        return job, None
    splicing = Splicing(
        job=job,
        folder=folder,
        feed=feed_of,
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
