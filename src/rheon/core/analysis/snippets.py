"""A few seconds of a title that any browser plays, with a chosen audio track and subtitle."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from ..engine import Command, require, run
from ..engine.arguments import audio_pad, subtitle_pad, video_pad
from ..errors import EngineError
from ..formats import is_text
from ..media import CellData, FileData, Scan, StreamKind, Title
from ..subtitles import LINK_NAME, lay_out, words_file
from .excerpts import excerpt, palette, with_words

LENGTH_S, LARGE_LENGTH_S, LARGE_LINES = 6.0, 3.0, 576
"""Large pictures take longest to decode; nobody should wait for two seconds."""
LINES = 360
PROGRAM_BYTES, TRANSPORT_BYTES = 16 << 20, 70 << 20
TIMEOUT_S = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class SnippetRequest:
    """From when (seconds) and with which tracks, by their index; ``None`` for no sound or no subtitle."""

    title: Title
    from_s: float
    audio: int | None
    subtitle: int | None


def make_snippet(request: SnippetRequest, target: Path, work: Path) -> None:
    """Write some seconds as MP4 to ``target``; ``work`` is an empty folder. Raises ``EngineError`` or ``OSError``."""
    require("ffmpeg")
    title = request.title
    most = None
    if isinstance(title.data, CellData):
        most = TRANSPORT_BYTES if title.data.stream is StreamKind.TRANSPORT else PROGRAM_BYTES
    source = excerpt(title, request.from_s, most)
    if title.video is None and request.audio is None:
        raise EngineError("There is nothing to play in this title.", advice="")
    if request.subtitle is not None:
        lay_out(title, request.subtitle, work)
    argv = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-y", *palette(title), *source.arguments]
    argv += ["-t", f"{min(_length_s(title), max(1.0, title.duration_s - request.from_s)):.3f}"]
    if title.video is not None:
        argv += ["-filter_complex", _graph(request), "-map", "[out]", "-c:v", "libx264", "-preset", "ultrafast"]
        argv += ["-crf", "24", "-pix_fmt", "yuv420p", "-g", "50"]
    if request.audio is not None:
        pad = audio_pad(title, request.audio)
        argv += ["-filter_complex", f"[{pad}]aresample=async=1:first_pts=0[heard]", "-map", "[heard]"]
        argv += ["-c:a", "aac", "-ac", "2", "-b:a", "128k"]
    argv += ["-map_metadata", "-1", "-map_chapters", "-1", "-movflags", "+faststart", "-f", "mp4", f"file:{target}"]
    run(Command(argv=argv, feed=with_words(title, request.subtitle, source.feed), timeout_s=TIMEOUT_S, cwd=str(work)))


def _length_s(title: Title) -> float:
    return LARGE_LENGTH_S if title.video and title.video.height > LARGE_LINES else LENGTH_S


def _graph(request: SnippetRequest) -> str:
    title = request.title
    video = title.video
    assert video is not None
    pad = video_pad(title)
    lines = min(LINES, video.height // 2 * 2)
    width = max(2, 2 * round(lines * float(video.display_aspect) / 2))
    fields = ["bwdif=mode=send_frame"] if video.scan is Scan.INTERLACED or video.film_in_fields else []
    tail = [f"scale={width}:{lines}", "setsar=1"]
    track = title.subtitles[request.subtitle] if request.subtitle is not None else None
    if track is None:
        return f"[{pad}]{','.join([*fields, *tail])}[out]"
    if is_text(track):
        start_s = request.from_s + (title.data.from_s if isinstance(title.data, FileData) else 0.0)
        file, place = (words_file(track.index), 0) if track.path else (LINK_NAME, track.index)
        drawn = [
            f"setpts=PTS+{start_s:.3f}/TB",
            f"subtitles=filename={file}:si={place}",
            f"setpts=PTS-{start_s:.3f}/TB",
        ]
        return f"[{pad}]{','.join([*fields, *tail, *drawn])}[out]"
    words = subtitle_pad(title, track.index)
    head = ",".join(fields) or "null"
    return f"[{pad}]{head}[seen];[seen][{words}]overlay=eof_action=pass,{','.join(tail)}[out]"
