"""From a title and its settings to the engine's argument list. Pure: nothing is opened or started here."""

from __future__ import annotations

from dataclasses import dataclass

import langcodes

from ..engine.arguments import audio_pad, pipe_input, safe_file_input, subtitle_pad, video_pad
from ..media import Chapter, FileData, StreamKind, Title
from ..media.containers import CONTAINERS
from ..planning import Action, AudioSettings, OutputSettings, VideoSettings
from .filters import DrawnText, audio_filters, graph

CHAPTERS_FILE = "chapters.txt"
LINK_NAME = "source"
WORDS_FILE = "words.srt"
ENCODERS = {"h264": "libx264", "hevc": "libx265", "mpeg4": "mpeg4", "aac": "aac", "mp3": "libmp3lame", "ac3": "ac3"}
HOLDS_CHAPTERS = frozenset({"mp4", "matroska"})
NO_QUEUE = ("-thread_queue_size", "0")
"""With two inputs the engine would read each in a thread, and sleep for 10 ms whenever a short queue is empty."""
MPEG4_PROFILES = {"simple": "0", "advanced_simple": "15"}
MUXING = {"mp4": ("-movflags", "+faststart"), "mp3": ("-id3v2_version", "3")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What is to be made: a title, the settings, and the file to write. Runs in a folder that holds the helpers."""

    title: Title
    settings: OutputSettings
    target: str

    @property
    def subpictures(self) -> tuple[int, ...]:
        """Ids of the subpicture streams that the input must declare at its front."""
        words = self.settings.subtitle
        data = self.title.data
        if words is None or words.is_text or isinstance(data, FileData) or data.stream is StreamKind.TRANSPORT:
            return ()
        stream_id = self.title.subtitles[words.track].stream_id
        return () if stream_id is None else (stream_id,)

    @property
    def cores(self) -> frozenset[int]:
        """Packet ids of TrueHD tracks of which only the AC-3 core goes into the output."""
        sound = self.settings.audio
        track = self.title.audio[sound.track] if sound else None
        return frozenset({track.stream_id} if track and track.is_core and track.stream_id is not None else ())

    @property
    def carries_chapters(self) -> bool:
        return bool(self.title.chapters) and self.settings.container in HOLDS_CHAPTERS


def build_command(job: Job) -> list[str]:
    """The whole argument list. Chapters come from ``chapters.txt``, text subtitles from ``source`` or ``words.srt``."""
    made = job.settings
    return [
        "ffmpeg", "-hide_banner", "-loglevel", "error", "-nostats", "-progress", "pipe:1", "-y",
        *_input(job),
        *_chapters_input(job),
        *_maps(job),
        *(_video(made.video, made.container) if made.video else ()),
        *(_audio(made.audio, filtered=not _shares_id(job)) if made.audio else ()),
        *_metadata(job),
        "-metadata", f"title={made.name}",
        *(("-metadata:s:a:0", f"language={_alpha3(made.language)}") if made.audio else ()),
        "-max_muxing_queue_size", "4096",
        *MUXING.get(made.container, ()),
        "-f", CONTAINERS[made.container].muxer or "", f"file:{job.target}",
    ]  # fmt: skip


def _metadata(job: Job) -> list[str]:
    """Nothing of the source's own tags; chapters with their names where there are any."""
    if job.carries_chapters:
        return ["-map_metadata", "1", "-map_metadata:s", "-1", "-map_chapters", "1"]
    return ["-map_metadata", "-1", "-map_chapters", "-1"]


def chapters_document(chapters: tuple[Chapter, ...], duration_s: float) -> str:
    """Chapters in ffmpeg's metadata format; times in milliseconds."""
    lines = [";FFMETADATA1"]
    ends = [chapter.start_s for chapter in chapters[1:]] + [duration_s]
    for chapter, end in zip(chapters, ends, strict=True):
        name = chapter.name or f"Chapter {chapter.number}"
        escaped = "".join(f"\\{letter}" if letter in "=;#\\\n" else letter for letter in name)
        start_ms, end_ms = round(chapter.start_s * 1000), round(end * 1000)
        lines += ["[CHAPTER]", "TIMEBASE=1/1000", f"START={start_ms}", f"END={end_ms}", f"title={escaped}"]
    return "\n".join(lines) + "\n"


def _input(job: Job) -> list[str]:
    data = job.title.data
    if isinstance(data, FileData):
        span = ["-ss", f"{data.from_s:.3f}"] if data.from_s else []
        span += ["-t", f"{job.title.duration_s:.3f}"] if job.title.part_of is not None else []
        return ["-nostdin", *NO_QUEUE, *span, *safe_file_input(data.path)]
    palette = ["-palette", ",".join(data.palette)] if job.subpictures else []
    return [
        *NO_QUEUE,
        "-fflags",
        "+genpts",
        "-analyzeduration",
        "20M",
        "-probesize",
        "40M",
        *palette,
        *pipe_input(data.stream),
    ]


def _chapters_input(job: Job) -> list[str]:
    if not job.carries_chapters:
        return []
    return [*NO_QUEUE, "-protocol_whitelist", "file", "-f", "ffmetadata", "-i", CHAPTERS_FILE]


def drawn_text(title: Title, track: int) -> DrawnText:
    """Where the engine finds a text track: in the source itself, or written anew beside it from a sidecar file."""
    start_s = title.data.from_s if isinstance(title.data, FileData) else 0.0
    if title.subtitles[track].path is not None:
        return DrawnText(file=WORDS_FILE, track=0, start_s=start_s)
    return DrawnText(file=LINK_NAME, track=track, start_s=start_s)


def _maps(job: Job) -> list[str]:
    made, title = job.settings, job.title
    maps: list[str] = []
    if made.video and made.video.action is Action.COPY:
        maps += ["-map", video_pad(title)]
    elif made.video:
        drawn = made.subtitle
        picture = subtitle_pad(title, drawn.track) if drawn and not drawn.is_text else None
        text = drawn_text(title, drawn.track) if drawn and drawn.is_text else None
        maps += ["-filter_complex", graph(made.video, video_pad(title), picture, text), "-map", "[out]"]
    if made.audio and _shares_id(job):
        pad = audio_pad(title, made.audio.track)
        maps += ["-filter_complex", f"[{pad}]{audio_filters(made.audio)}[sound]", "-map", "[sound]"]
    elif made.audio:
        maps += ["-map", audio_pad(title, made.audio.track)]
    return maps


def _shares_id(job: Job) -> bool:
    """Whether the track's packet id names two streams to the engine: TrueHD and its core. A filter takes the first."""
    sound = job.settings.audio
    return sound is not None and sound.action is Action.ENCODE and job.title.audio[sound.track].codec == "truehd"


def _video(made: VideoSettings, container: str) -> list[str]:
    tag = ["-tag:v", "hvc1"] if made.codec == "hevc" and container == "mp4" else []
    if made.action is Action.COPY:
        return ["-c:v", "copy", *tag]
    common = ["-c:v", ENCODERS[made.codec], "-g", str(made.keyframe_frames), *tag]
    return [*common, *_ENCODER_ARGUMENTS[made.codec](made)]


def _h264(made: VideoSettings) -> list[str]:
    return [
        "-preset", made.effort, *_optional("-profile:v", made.profile), *_optional("-level", made.level),
        "-crf", str(made.quality), "-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits),
        "-refs", str(made.reference_frames), "-bf", str(made.b_frames), "-b-pyramid", "none",
    ]  # fmt: skip


def _hevc(made: VideoSettings) -> list[str]:
    values = {
        "log-level": "error",
        "level-idc": made.level,
        "high-tier": "0",
        "vbv-maxrate": (made.peak_bps or 0) // 1000,
        "vbv-bufsize": (made.buffer_bits or 0) // 1000,
        "ref": made.reference_frames,
        "bframes": made.b_frames,
        "b-pyramid": "0",
    }
    pairs = ":".join(f"{key}={value}" for key, value in values.items() if value is not None)
    return [
        "-preset",
        made.effort,
        *_optional("-profile:v", made.profile),
        "-crf",
        str(made.quality),
        "-x265-params",
        pairs,
    ]


def _mpeg4(made: VideoSettings) -> list[str]:
    return [
        *_optional("-profile:v", MPEG4_PROFILES.get(made.profile or "")),
        *_optional("-level", made.level[0] if made.level else None),
        "-b:v", str(made.bitrate_bps), "-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits), "-bf", "0",
    ]  # fmt: skip


_ENCODER_ARGUMENTS = {"h264": _h264, "hevc": _hevc, "mpeg4": _mpeg4}


def _audio(made: AudioSettings, *, filtered: bool) -> list[str]:
    if made.action is Action.COPY:
        return ["-c:a", "copy"]
    return [
        "-c:a", ENCODERS[made.codec], "-b:a", str(made.bitrate_bps), "-ar", str(made.sample_rate),
        *(("-af", audio_filters(made)) if filtered else ()), "-ac", str(made.channels),
    ]  # fmt: skip


def _optional(flag: str, value: str | None) -> list[str]:
    return [] if value is None else [flag, value]


def _alpha3(tag: str) -> str:
    """The three-letter code that MP4 and Matroska store (ISO 639-2)."""
    try:
        return langcodes.Language.get(tag).to_alpha3(variant="B")
    except LookupError:
        return "und"
