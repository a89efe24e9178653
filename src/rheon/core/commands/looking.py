"""What is looked at and listened to in a title: frames, stretches, snippets, samples, artwork."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..formats import is_text
from ..media import Artwork, AudioStream, CellData, Fields, FileData, Scan, Title, VideoSettings, VideoStream
from .inputs import audio_specifier, safe_file_input, subtitle_specifier, video_specifier
from .making.filters import TURNS, DrawnText, Timing, graph
from .making.scaling import scaler_matrix
from .names import LINK_NAME, subtitle_file
from .start import QUIET, TALKING
from .tone_mapping import STILL, for_screen

BRIEFLY = ("-analyzeduration", "300000", "-probesize", "1500000")
"""Goes before a source's arguments where only its first pictures are wanted: the engine then starts at once."""
JPEG = ("-f", "mjpeg", "pipe:1")
SNIPPET_LINES = 360
STILL_MATRIX = scaler_matrix(STILL)
MOST_ARTWORK_PIXELS = 40_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """Where to look: a title, the engine's input arguments near a moment of it, and what goes before them.

    ``shown_s`` is the time in what is read at which the moment itself comes.
    """

    title: Title
    source: tuple[str, ...]
    start: tuple[str, ...] = ()
    shown_s: float | None = None

    @property
    def exact(self) -> list[str]:
        """Filters that leave out what comes before the moment, where reading has to begin before it."""
        return [] if self.shown_s is None else [f"select='gte(t\\,{self.shown_s:.6f})'"]

    def begun(self, start: tuple[str, ...]) -> View:
        return replace(self, start=start)


def frame(view: View, height: int, upright: VideoStream | None = None, *, fine: bool = False) -> list[str]:
    """The first picture as a JPEG, ``height`` lines high, in square pixels; turned and shaped as ``upright`` says.

    ``fine``: to be kept, and of one moment where it is not known that pictures are whole.
    """
    video = view.title.video
    assert video is not None
    seen = upright or video
    width = 2 * round(height * seen.display_aspect / 2)
    argv = [*QUIET, *view.start, *view.source, "-map", video_specifier(view.title), "-frames:v", "1"]
    fields = ["yadif=mode=send_frame:deint=all"] if fine and video.scan is not Scan.PROGRESSIVE else []
    turned = TURNS[(seen.rotation - video.rotation) % 360]
    size = f"scale={width}:{height}{':flags=lanczos' if fine else ''}{_of_still(video)}"
    steps = [*fields, *view.exact, *turned, size, "setsar=1", *(["format=yuvj444p"] if fine else [])]
    return [*argv, "-vf", ",".join(steps), "-fps_mode", "vfr", "-q:v", "2" if fine else "4", *JPEG]


def _of_still(video: VideoStream) -> str:
    """What is left to be done behind the size, for a picture to be a JPEG's."""
    mapped = for_screen(video, STILL)
    return "".join(f",{step}" for step in mapped) if mapped else f":out_color_matrix={STILL_MATRIX}"


def stored_pictures(view: View, count: int) -> list[str]:
    """Luma of the first pictures as they are stored, raw."""
    argv = [*QUIET, "-noautorotate", *view.start, *view.source, "-map", video_specifier(view.title)]
    argv += ["-frames:v", str(count), "-vf", "format=yuv420p,extractplanes=y"]
    return [*argv, "-fps_mode", "passthrough", "-f", "rawvideo", "pipe:1"]


def sample(view: View, length_s: float, quality: int, preset: str) -> list[str]:
    """A stretch in H.264 at constant quality, as a byte stream."""
    argv = [*QUIET, *view.source, "-map", video_specifier(view.title), "-t", f"{length_s:.3f}", "-pix_fmt", "yuv420p"]
    return [*argv, "-c:v", "libx264", "-preset", preset, "-crf", str(quality), "-f", "h264", "pipe:1"]


def without_loss(view: View, tracks: Sequence[AudioStream], length_s: float) -> list[str]:
    """A stretch of tracks coded without loss; a line is said for each packet."""
    argv = [*QUIET, *view.source, "-t", f"{length_s:g}"]
    argv += [part for track in tracks for part in ("-map", audio_specifier(view.title, track.index))]
    return [*argv, "-c:a", "flac", "-f", "framecrc", "pipe:1"]


def loudness(view: View, tracks: Sequence[AudioStream], length_s: float, rate: int) -> list[str]:
    """A stretch of tracks, each a channel of 16-bit samples at ``rate``; loudness and peak are reported at the end."""
    parts = [
        f"[{audio_specifier(view.title, track.index)}]ebur128@t{n}=peak=sample:framelog=verbose,aresample={rate},"
        f"aformat=sample_fmts=s16:channel_layouts=mono,asetpts=N/SR/TB[a{n}]"
        for n, track in enumerate(tracks)
    ]
    pads = "".join(f"[a{n}]" for n in range(len(tracks)))
    merge = f";{pads}amerge=inputs={len(tracks)}[out]" if len(tracks) > 1 else ""
    argv = [*TALKING, "-nostats", *view.source, "-t", f"{length_s:g}"]
    argv += ["-filter_complex", ";".join(parts) + merge, "-map", "[out]" if merge else "[a0]"]
    return [*argv, "-f", "s16le", "pipe:1"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Snippet:
    """Some seconds that any browser plays: from when, how long, and with which tracks (``None`` for none)."""

    from_s: float
    length_s: float
    audio: int | None
    subtitle: int | None
    target: str


def snippet(view: View, wanted: Snippet) -> list[str]:
    """A small MP4 file."""
    title = view.title
    argv = [*QUIET, "-y", *palette(title), *view.source, "-t", f"{wanted.length_s:.3f}"]
    if title.video is not None:
        argv += ["-filter_complex", _snippet_graph(title, wanted), "-map", "[out]", "-c:v", "libx264"]
        argv += ["-preset", "ultrafast", "-crf", "24", "-pix_fmt", "yuv420p", "-g", "50"]
    if wanted.audio is not None:
        specifier = audio_specifier(title, wanted.audio)
        argv += ["-filter_complex", f"[{specifier}]aresample=async=1:first_pts=0[heard]", "-map", "[heard]"]
        argv += ["-c:a", "aac", "-ac", "2", "-b:a", "128k"]
    argv += ["-map_metadata", "-1", "-map_chapters", "-1", "-movflags", "+faststart"]
    return [*argv, "-f", "mp4", f"file:{wanted.target}"]


def preview(
    view: View,
    made: VideoSettings,
    drawn: tuple[str | None, DrawnText | None],
    skip_s: float,
    timing: Timing | None = None,
) -> list[str]:
    """A picture as it will be, ``skip_s`` behind where reading starts, with a pad or a text drawn into it."""
    picture, text = drawn
    wide = round(made.width * made.sample_aspect / 2) * 2
    shown = graph(made, video_specifier(view.title), picture, text, timing)
    # the graph's last step is the encoder's format; the picture is taken from it at the moment, in square pixels
    # a device that shows fields makes whole frames of them by itself
    whole = "bwdif=mode=send_frame," if made.fields is Fields.KEEP else ""
    as_still = f":in_color_matrix={scaler_matrix(made.colour)}:out_color_matrix={STILL_MATRIX}" if made.colour else ""
    at = f"select='gte(t\\,{skip_s:.3f})'"
    tail = f"[out]{whole}{at},scale={wide}:{made.height}{as_still},setsar=1,format=yuvj420p[seen_out]"
    argv = [*QUIET, *view.start, *palette(view.title), *view.source, "-filter_complex", f"{shown};{tail}"]
    return [*argv, "-map", "[seen_out]", "-frames:v", "1", "-fps_mode", "vfr", "-q:v", "3", *JPEG]


def artwork(picture: Artwork, width: int) -> list[str]:
    """The picture that belongs to a title as a JPEG of at most ``width`` pixels across."""
    stream = "0:v:0" if picture.stream is None else f"0:{picture.stream}"
    source = (
        ["-f", "image2", "-pattern_type", "none", "-i", f"file:{picture.path}"]
        if picture.stream is None
        else safe_file_input(picture.path)
    )
    argv = [*QUIET, "-nostdin", "-max_pixels", str(MOST_ARTWORK_PIXELS), "-protocol_whitelist", "file", *source]
    argv += ["-map", stream, "-frames:v", "1", "-vf", f"scale='min({width},iw)':-2"]
    return [*argv, "-q:v", "2", *JPEG]


def text_track(title: Title, track: int) -> list[str]:
    """All lines of a file's text track, as SubRip."""
    assert isinstance(title.data, FileData)
    argv = [*QUIET, "-nostdin", *safe_file_input(title.data.path), "-map", subtitle_specifier(title, track)]
    return [*argv, "-c:s", "srt", "-f", "srt", "pipe:1"]


def palette(title: Title) -> list[str]:
    """The colours of a disc's subtitle pictures, which its tables hold and not its data."""
    data = title.data
    return ["-palette", ",".join(data.palette)] if isinstance(data, CellData) and data.palette else []


def _snippet_graph(title: Title, wanted: Snippet) -> str:
    video = title.video
    assert video is not None
    specifier = video_specifier(title)
    lines = min(SNIPPET_LINES, video.height // 2 * 2)
    width = max(2, 2 * round(lines * float(video.display_aspect) / 2))
    fields = ["bwdif=mode=send_frame"] if video.is_combed else []
    tail = [f"scale={width}:{lines}", *for_screen(video), "setsar=1"]
    track = title.subtitles[wanted.subtitle] if wanted.subtitle is not None else None
    if track is None:
        return f"[{specifier}]{','.join([*fields, *tail])}[out]"
    if is_text(track):
        start_s = wanted.from_s + (title.data.from_s if isinstance(title.data, FileData) else 0.0)
        file, place = (subtitle_file(track.index), 0) if track.path else (LINK_NAME, track.in_file)
        drawn = [
            f"setpts=PTS+{start_s:.3f}/TB",
            f"subtitles=filename={file}:si={place}",
            f"setpts=PTS-{start_s:.3f}/TB",
        ]
        return f"[{specifier}]{','.join([*fields, *tail, *drawn])}[out]"
    subtitle = subtitle_specifier(title, track.index)
    head = ",".join(fields) or "null"
    return f"[{specifier}]{head}[seen];[seen][{subtitle}]overlay=eof_action=pass,{','.join(tail)}[out]"
