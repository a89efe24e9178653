"""What the engine reads for a job: the title, its chapters, text files beside it, subtitle pictures to draw. Pure."""

from __future__ import annotations

from dataclasses import replace

from ...media import PTS_HZ, CellData, FileData, StreamKind, Title
from ..inputs import OWN_START, begin_at, parts_input, pipe_input, safe_file_input, subtitle_specifier
from ..names import CHAPTERS_FILE, PICTURE_PIPE, drawn_file, part_link, pipe_name, subtitle_file
from ..start import QUIET
from .concat import begins_s
from .filters import just_before
from .job import Job

DRAWN_ZERO_S, SILENCE_AT_S = 10, 1
BASE_S = 10
"""What the time stamps of pieces that follow each other are raised by, so that none is below zero."""
ROUNDED_TICKS = 9
"""A tenth of a millisecond keeps rounding from putting the first picture before zero."""
CLEARS_ITSELF = "hdmv_pgs_subtitle"
"""Its pictures stand until another one, or nothing, takes their place."""
NO_QUEUE = ("-thread_queue_size", "0")
"""With two inputs the engine would read each in a thread, and sleep for 10 ms whenever a short queue is empty."""


def main_input(job: Job) -> list[str]:
    """The title itself: a file by its name, a disc's title on standard input."""
    data = job.title.data
    if isinstance(data, FileData):
        return [
            "-nostdin",
            *NO_QUEUE,
            *(OWN_START if job.settings.middles else ()),
            *_span(job.title, job.lead_s, job.reserve_s),
            *safe_file_input(data.path),
        ]
    return [
        *NO_QUEUE,
        *_own_zero(data),
        "-fflags",
        "+genpts",
        "-analyzeduration",
        "20M",
        "-probesize",
        "40M",
        *_palette(job),
        *pipe_input(data.stream, pipe_name(job.number)),
    ]


def main_inputs(job: Job) -> list[str]:
    """The title itself, or each of its pieces; and all of them one after the other where they are copied."""
    pictures = picture_input(own_zero=job.own_zero, first_s=job.picture_at_s) if job.has_edges else []
    return [*(part for piece in job.each for part in main_input(piece)), *_parts_input(job), *pictures]


def picture_input(*, own_zero: bool, first_s: float) -> list[str]:
    """Copied pictures between encoded edges, as they come on a pipe; the first one at ``first_s``.

    ``own_zero``: the engine keeps every input's own time stamps.
    """
    moved_s = -BASE_S if own_zero else first_s
    return [
        *NO_QUEUE, "-itsoffset", f"{moved_s:.6f}", "-analyzeduration", "20M", "-probesize", "40M",
        *pipe_input(StreamKind.TRANSPORT, PICTURE_PIPE),
    ]  # fmt: skip


def _parts_input(job: Job) -> list[str]:
    """The parts of a join one after the other, its first picture at zero where sound is made anew beside it."""
    if not job.copies_parts:
        return []
    moved = ["-itsoffset", f"{-job.parts_late_s:.6f}"] if job.parts_late_s else []
    return [*NO_QUEUE, *moved, "-fflags", "+genpts", *parts_input()]


def parts_document(job: Job) -> str:
    """The parts in their order, each with how long it lasts until the next one's first picture."""
    lines = ["ffconcat version 1.0"]
    for number, piece in enumerate(job.pieces):
        lines.append(f"file {part_link(number)}")
        if number + 1 < len(job.pieces):
            length_s = begins_s(job, number + 1) - begins_s(job, number)
            length_s += _late_s(piece) - _late_s(job.pieces[number + 1])
            lines.append(f"duration {length_s:.6f}")
    return "\n".join(lines) + "\n"


def _late_s(piece: Title) -> float:
    """How long after its file's first moment a part's first picture comes."""
    return piece.video.span.start_s if piece.video and piece.video.span else 0.0


def _own_zero(data: CellData) -> list[str]:
    """The title's first moment is zero, whatever the data around it begin with; what lies before is cut."""
    pts = data.start_pts
    return [] if pts is None else ["-copyts", "-itsoffset", f"{(ROUNDED_TICKS - pts) / PTS_HZ:.6f}"]


def _palette(job: Job) -> list[str]:
    data = job.title.data
    if isinstance(data, FileData) or not job.subpictures or not data.palette:
        return []
    return ["-palette", ",".join(data.palette)]


def _span(title: Title, lead_s: float = 0.0, reserve_s: float = 0.0) -> list[str]:
    """Which stretch of a file the title is, where it is not the whole, and what is read before and behind it."""
    from_s = title.data.from_s - lead_s if isinstance(title.data, FileData) else 0.0
    span = begin_at(title, from_s)
    return [*span, *until(title.duration_s + lead_s + reserve_s)] if title.part_of is not None else span


def until(length_s: float) -> list[str]:
    """The option for a length; what begins just at its end is not in it."""
    return ["-t", just_before(length_s)]


def chapters_input(job: Job) -> list[str]:
    """The chapters' document, where the output carries chapters."""
    if not job.carries_chapters:
        return []
    return [*NO_QUEUE, "-protocol_whitelist", "file", "-f", "ffmetadata", "-i", CHAPTERS_FILE]


def side_inputs(job: Job) -> list[str]:
    """Text files that lie beside the source."""
    said: list[str] = []
    for subtitle in job.side_tracks:
        # lines of a kept range were cut when they were laid out
        span = [] if job.settings.kept or job.pieces else _span(job.title)
        said += [*NO_QUEUE, *span, "-protocol_whitelist", "file", "-f", "srt", "-i", subtitle_file(subtitle.track)]
    return said


def drawn_place(job: Job) -> int:
    """Which of the engine's inputs holds the subtitle pictures to draw."""
    drawn, before = job.settings.drawn, job.pieces[: job.number]
    there = sum(not piece.subtitles[drawn.track].absent for piece in before) if drawn else 0
    return job.inputs + job.carries_chapters + len(job.side_tracks) + there


def drawn_input(job: Job) -> list[str]:
    """The subtitle pictures to draw, as ``drawn_command`` has laid them out."""
    drawn = job.settings.drawn
    if drawn is None or drawn.is_text or job.title.subtitles[drawn.track].absent:
        return []
    forced = ["-forced_subs_only", "1"] if drawn.only_forced else []
    # times in that file count from DRAWN_ZERO_S; where the engine keeps no file's own start, it takes that off itself
    moved_s = -job.phase_s - job.lead_s - (DRAWN_ZERO_S if job.own_zero else DRAWN_ZERO_S - SILENCE_AT_S)
    video, track = job.title.video, job.title.subtitles[drawn.track]
    canvas = ["-canvas_size", f"{video.width}x{video.height}"] if video and track.format != CLEARS_ITSELF else []
    return [
        *NO_QUEUE,
        "-itsoffset",
        f"{moved_s:.6f}",
        *canvas,
        *forced,
        "-protocol_whitelist",
        "file",
        "-f",
        "matroska",
        "-i",
        drawn_file(job.number),
    ]


def drawn_inputs(job: Job) -> list[str]:
    """The subtitle pictures to draw into the title, or into each of its pieces."""
    return [part for piece in job.each for part in drawn_input(piece)]


def drawn_command(job: Job) -> list[str]:
    """The argument list that lays the subtitle pictures to draw into a file of their own, beside ``chapters.txt``.

    In a title's own stream a picture may come long after the frame over which it belongs; from a file of its own it
    is there in time. Pictures that say themselves when they end are written as those that clear the screen do. The
    title's zero is at ``DRAWN_ZERO_S``, since a line may have begun before a part of a title does; a moment of silence
    at ``SILENCE_AT_S`` is always the first thing in the file.
    """
    drawn, title = job.settings.drawn, job.title
    assert drawn is not None
    track = title.subtitles[drawn.track]
    alone = replace(job, pieces=(), number=0)
    forced = ["-forced_subs_only", "1"] if drawn.only_forced else []
    plain = ["-c:s", "copy"] if track.format == CLEARS_ITSELF else ["-c:s", "dvbsub", *_canvas(job)]
    silence = [
        "-itsoffset",
        f"{SILENCE_AT_S - DRAWN_ZERO_S}",
        "-f",
        "lavfi",
        "-t",
        "0.1",
        "-i",
        "anullsrc=r=48000:cl=mono",
    ]
    length = until(title.duration_s + alone.lead_s)
    return [
        *QUIET, "-y", *forced, *main_input(alone), *silence,
        "-map", subtitle_specifier(title, drawn.track), "-map", "1:a", "-c:a", "pcm_s16le", *plain, *length,
        "-output_ts_offset", str(DRAWN_ZERO_S), "-f", "matroska", f"file:{drawn_file(job.number)}",
    ]  # fmt: skip


def _canvas(job: Job) -> list[str]:
    video = job.title.video
    return ["-s:s:0", f"{video.width}x{video.height}"] if video else []
