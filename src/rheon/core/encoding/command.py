"""From a title and its settings to the engine's argument list. Pure: nothing is opened or started here."""

from __future__ import annotations

from dataclasses import dataclass

import langcodes

from ..engine.arguments import audio_pad, pipe_input, safe_file_input, subtitle_pad, video_pad
from ..media import CellData, Chapter, FileData, StreamKind, Title
from ..media.containers import CONTAINERS
from ..planning import Action, AudioSettings, OutputSettings, SubtitleSettings, WordsForm
from ..sources.feed import has_joins
from ..subtitles import LINK_NAME, words_file
from .encoders import Placing, audio_arguments, early_of, video_arguments
from .filters import DrawnText, Moves, audio_filters, graph, phase_of

CHAPTERS_FILE, DRAWN_FILE = "chapters.txt", "drawn.mkv"
DRAWN_ZERO_S, SILENCE_AT_S = 10, 1
CLOCK_HZ, ROUNDED_TICKS = 90_000, 9
"""A tenth of a millisecond keeps rounding from putting the first picture before zero."""
CLEARS_ITSELF = "hdmv_pgs_subtitle"
"""Its pictures stand until another one, or nothing, takes their place."""
NO_QUEUE = ("-thread_queue_size", "0")
"""With two inputs the engine would read each in a thread, and sleep for 10 ms whenever a short queue is empty."""
MUXING = {
    "mp4": ("-movflags", "+faststart"),
    "mp3": ("-id3v2_version", "3"),
    # what lies before zero would push all pictures back by an empty one
    "avi": ("-avoid_negative_ts", "disabled"),
}
SOON_S = 0.25
"""Up to so late a first picture begins at once in a container without times; later ones are waited for."""
BLURAY_SUFFIX = ".m2ts"
SIDE_SUFFIX = "srt"


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What is to be made: a title, the settings, and the file to write. Runs in a folder that holds the helpers."""

    title: Title
    settings: OutputSettings
    target: str

    @property
    def subpictures(self) -> tuple[int, ...]:
        """Ids of the subpicture streams that the input must declare at its front."""
        data = self.title.data
        if isinstance(data, FileData) or data.stream is StreamKind.TRANSPORT:
            return ()
        wanted = [self.title.subtitles[words.track] for words in self.settings.subtitles if not words.is_text]
        return tuple(track.stream_id for track in wanted if track.stream_id is not None)

    @property
    def cores(self) -> frozenset[int]:
        """Packet ids of TrueHD tracks of which only the AC-3 core goes into the output."""
        tracks = [self.title.audio[sound.track] for sound in self.settings.audio]
        return frozenset(track.stream_id for track in tracks if track.is_core and track.stream_id is not None)

    @property
    def decodes_picture(self) -> bool:
        return self.settings.video is not None and self.settings.video.action is Action.ENCODE

    @property
    def carries_chapters(self) -> bool:
        return bool(self.title.chapters) and self.settings.chapters and CONTAINERS[self.settings.container].chapters

    @property
    def side_tracks(self) -> tuple[SubtitleSettings, ...]:
        """Subtitle tracks that lie in files of their own and go along as tracks or files."""
        return tuple(
            words
            for words in self.settings.subtitles
            if words.form is not WordsForm.DRAWN and self.title.subtitles[words.track].path is not None
        )


def build_command(job: Job, at_pass: int = 0) -> list[str]:
    """The whole argument list; ``at_pass`` is 1 or 2 where there are two.

    Chapters come from ``chapters.txt``, text subtitles from ``source`` or ``words-N.srt``.
    """
    made = job.settings
    head = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-nostats", "-progress", "pipe:1", "-y", *_input(job)]
    if at_pass == 1 and made.video:
        head += [*_chapters_input(job), *_side_inputs(job), *_drawn_input(job)]
        picture = [*_picture_map(job), *video_arguments(made.video, made.container, at_pass), *_limit(job)]
        return [*head, *picture, "-an", "-sn", "-f", "null", "-"]
    return [
        *head,
        *_chapters_input(job),
        *_side_inputs(job),
        *_drawn_input(job),
        *_picture_map(job),
        *_sound_maps(job),
        *_words_maps(job),
        *(video_arguments(made.video, made.container, at_pass) if made.video else ()),
        *(part for place, sound in enumerate(made.audio)
          for part in audio_arguments(sound, _placing(job, sound, place))),
        *_metadata(job),
        "-max_muxing_queue_size", "4096",
        *MUXING.get(made.container, ()),
        *(("-mpegts_m2ts_mode", "1") if made.file_name.lower().endswith(BLURAY_SUFFIX) else ()),
        *_limit(job),
        "-f", CONTAINERS[made.container].muxer, f"file:{job.target}",
        *_side_files(job),
    ]  # fmt: skip


def chapters_document(chapters: tuple[Chapter, ...], duration_s: float) -> str:
    """Chapters in ffmpeg's metadata format; times in milliseconds."""
    lines = [";FFMETADATA1"]
    ends = [chapter.start_s for chapter in chapters[1:]] + [duration_s]
    for chapter, end in zip(chapters, ends, strict=True):
        escaped = "".join(f"\\{letter}" if letter in "=;#\\\n" else letter for letter in _chapter_name(chapter))
        start_ms, end_ms = round(chapter.start_s * 1000), round(end * 1000)
        lines += ["[CHAPTER]", "TIMEBASE=1/1000", f"START={start_ms}", f"END={end_ms}", f"title={escaped}"]
    return "\n".join(lines) + "\n"


def side_file(job: Job, words: SubtitleSettings) -> str:
    """The temporary name of a text file that is delivered beside the film."""
    return f"{job.target}.{words.track}.{SIDE_SUFFIX}"


def drawn_text(title: Title, track: int) -> DrawnText:
    """Where the engine finds a text track: in the source itself, or written anew beside it from a sidecar file."""
    start_s = title.data.from_s if isinstance(title.data, FileData) else 0.0
    if title.subtitles[track].path is not None:
        return DrawnText(file=words_file(track), track=0, start_s=start_s)
    return DrawnText(file=LINK_NAME, track=track, start_s=start_s)


def _chapter_name(chapter: Chapter) -> str:
    return chapter.name or f"Chapter {chapter.number}"


def _metadata(job: Job) -> list[str]:
    """The title's name and languages; of the source's tags only what people wrote into a sound file."""
    made = job.settings
    head = ["-map_metadata", "-1", "-map_chapters", "-1"]
    if job.carries_chapters:
        head = ["-map_metadata", "1", "-map_metadata:s", "-1", "-map_chapters", "1"]
    tags = {**job.title.tags, "title": made.name} if made.video is None else {"title": made.name}
    said = [part for key, value in tags.items() for part in ("-metadata", f"{key}={value}")]
    if made.container == "flac" and job.carries_chapters:
        said += _comment_chapters(job.title.chapters)
    for place, sound in enumerate(made.audio):
        said += [f"-metadata:s:a:{place}", f"language={_alpha3(sound.language)}"]
    if len(made.audio) > 1:
        said += [part for place in range(len(made.audio)) for part in _default("a", place, on=place == 0)]
    tracks = [words for words in made.subtitles if words.form is WordsForm.TRACK]
    for place, words in enumerate(tracks):
        said += [f"-metadata:s:s:{place}", f"language={_alpha3(words.language)}", *_default("s", place, on=False)]
    return [*head, *said]


def _default(kind: str, place: int, *, on: bool) -> list[str]:
    return [f"-disposition:{kind}:{place}", "default" if on else "0"]


def _comment_chapters(chapters: tuple[Chapter, ...]) -> list[str]:
    """Chapters as comments, since the muxer writes none into FLAC (the Vorbis comment convention)."""
    said: list[str] = []
    for place, chapter in enumerate(chapters):
        hours, rest = divmod(chapter.start_s, 3600)
        minutes, seconds = divmod(rest, 60)
        at = f"{int(hours):02}:{int(minutes):02}:{seconds:06.3f}"
        said += ["-metadata", f"CHAPTER{place:03}={at}", "-metadata", f"CHAPTER{place:03}NAME={_chapter_name(chapter)}"]
    return said


def _input(job: Job) -> list[str]:
    data = job.title.data
    if isinstance(data, FileData):
        return ["-nostdin", *NO_QUEUE, *_span(job.title), *safe_file_input(data.path)]
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
        *pipe_input(data.stream),
    ]


def _own_zero(data: CellData) -> list[str]:
    """The title's first moment is zero, whatever the data around it begin with; what lies before is cut."""
    clock = data.start_clock
    return [] if clock is None else ["-copyts", "-itsoffset", f"{(ROUNDED_TICKS - clock) / CLOCK_HZ:.6f}"]


def _palette(job: Job) -> list[str]:
    data = job.title.data
    if isinstance(data, FileData) or not job.subpictures or not data.palette:
        return []
    return ["-palette", ",".join(data.palette)]


def _span(title: Title) -> list[str]:
    """Which stretch of a file the title is, where it is not the whole."""
    from_s = title.data.from_s if isinstance(title.data, FileData) else 0.0
    span = ["-ss", f"{from_s:.3f}"] if from_s else []
    return [*span, "-t", f"{title.duration_s:.3f}"] if title.part_of is not None else span


def _limit(job: Job) -> list[str]:
    """The end once more for the output: the input's bounds pictures and sound, but lets later subtitles through.

    What a disc's feed brings before the title's first moment and behind its end is cut here.
    """
    data, length = job.title.data, ["-t", f"{job.title.duration_s:.3f}"]
    if isinstance(data, CellData):
        own = data.start_clock is not None
        ends = data.cells[-1].lap or job.title.part_of is not None
        before = own and (data.cells[0].lead or data.skip_s or job.title.part_of is not None)
        return [*(("-copypriorss", "0") if before else ()), *(length if own and ends else ())]
    return length if job.title.part_of is not None and job.settings.subtitles else []


def _chapters_input(job: Job) -> list[str]:
    if not job.carries_chapters:
        return []
    return [*NO_QUEUE, "-protocol_whitelist", "file", "-f", "ffmetadata", "-i", CHAPTERS_FILE]


def _side_inputs(job: Job) -> list[str]:
    said: list[str] = []
    for words in job.side_tracks:
        span = _span(job.title)
        said += [*NO_QUEUE, *span, "-protocol_whitelist", "file", "-f", "srt", "-i", words_file(words.track)]
    return said


def _drawn_place(job: Job) -> int:
    """Which of the engine's inputs holds the subtitle pictures to draw."""
    return 1 + job.carries_chapters + len(job.side_tracks)


def _drawn_input(job: Job) -> list[str]:
    drawn = job.settings.drawn
    if drawn is None or drawn.is_text:
        return []
    forced = ["-forced_subs_only", "1"] if drawn.only_forced else []
    # times in that file count from DRAWN_ZERO_S; where the engine keeps no file's own start, it takes that off itself
    own = isinstance(job.title.data, CellData) and job.title.data.start_clock is not None
    moved_s = -_phase_s(job) - (DRAWN_ZERO_S if own else DRAWN_ZERO_S - SILENCE_AT_S)
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
        DRAWN_FILE,
    ]


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
    length = ["-t", f"{title.duration_s:.3f}"]
    return [
        "ffmpeg", "-hide_banner", "-loglevel", "error", "-y", *forced, *_input(job), *silence,
        "-map", subtitle_pad(title, drawn.track), "-map", "1:a", "-c:a", "pcm_s16le", *plain, *length,
        "-output_ts_offset", str(DRAWN_ZERO_S), "-f", "matroska", f"file:{DRAWN_FILE}",
    ]  # fmt: skip


def _canvas(job: Job) -> list[str]:
    video = job.title.video
    return ["-s:s:0", f"{video.width}x{video.height}"] if video else []


def _picture_map(job: Job) -> list[str]:
    made, title = job.settings, job.title
    if made.video is None:
        return []
    if made.video.action is Action.COPY:
        return ["-map", video_pad(title)]
    drawn = made.drawn
    picture = f"{_drawn_place(job)}:s:0" if drawn and not drawn.is_text else None
    text = drawn_text(title, drawn.track) if drawn and drawn.is_text else None
    return ["-filter_complex", graph(made.video, video_pad(title), picture, text, _moves(job)), "-map", "[out]"]


def _moves(job: Job) -> Moves:
    data = job.title.data
    own = isinstance(data, CellData) and data.start_clock is not None
    return Moves(phase_s=_phase_s(job), cut_before=own, leads=isinstance(data, CellData) and has_joins(data))


def _phase_s(job: Job) -> float:
    """How much earlier everything comes, so that the first picture lies on a tick of the output's frame rate.

    Where a container keeps no times, the first picture (or a copied sound) is its first moment.
    """
    made, video = job.settings.video, job.title.video
    if made is None or video is None or video.span is None or made.action is Action.COPY or made.variable_rate:
        return 0.0
    first_s = video.span.start_s
    if not CONTAINERS[job.settings.container].keeps_start and first_s <= SOON_S:
        return first_s
    phase_s = phase_of(first_s, made.frame_rate)
    return phase_s if abs(phase_s) > 1e-4 else 0.0


def _placing(job: Job, sound: AudioSettings, place: int) -> Placing:
    filtered = not _shares_id(job, sound) and not _plain(sound)
    return Placing(place=place, early_s=_phase_s(job), container=job.settings.container, filtered=filtered)


def _sound_maps(job: Job) -> list[str]:
    maps: list[str] = []
    for place, sound in enumerate(job.settings.audio):
        pad = audio_pad(job.title, sound.track)
        if _shares_id(job, sound):
            heard = audio_filters(sound, early_of(sound, _placing(job, sound, place)))
            maps += ["-filter_complex", f"[{pad}]{heard}[sound{place}]", "-map", f"[sound{place}]"]
        else:
            maps += ["-map", pad]
    return maps


def _words_maps(job: Job) -> list[str]:
    said: list[str] = []
    tracks = [words for words in job.settings.subtitles if words.form is WordsForm.TRACK]
    for place, words in enumerate(tracks):
        said += ["-map", _words_pad(job, words), *_words_codec(job, words, place)]
    return said


def _words_pad(job: Job, words: SubtitleSettings) -> str:
    sides = job.side_tracks
    if words in sides:
        return f"{1 + job.carries_chapters + sides.index(words)}:s:0"
    return subtitle_pad(job.title, words.track)


def _words_codec(job: Job, words: SubtitleSettings, place: int) -> list[str]:
    source, data = job.title.subtitles[words.track].format, job.title.data
    if words.format == "dvd_subtitle" and not isinstance(data, FileData):
        # a disc keeps the palette in its tables; written anew, the pictures carry it and their canvas with them
        palette = [f"-palette:s:{place}", ",".join(data.palette)] if data.palette else []
        video = job.title.video
        canvas = [f"-s:s:{place}", f"{video.width}x{video.height}"] if video else []
        return [f"-c:s:{place}", "dvdsub", *canvas, *palette]
    if words.format == source and words not in job.side_tracks:
        return [f"-c:s:{place}", "copy"]
    return [f"-c:s:{place}", {"subrip": "srt"}.get(words.format, words.format)]


def _side_files(job: Job) -> list[str]:
    said: list[str] = []
    for words in job.settings.subtitles:
        if words.form is WordsForm.FILE:
            said += [
                "-map",
                _words_pad(job, words),
                "-c:s",
                "srt",
                *_limit(job),
                "-f",
                "srt",
                f"file:{side_file(job, words)}",
            ]
    return said


def _plain(sound: AudioSettings) -> bool:
    """Whether the samples only change their name, as in a faithful copy."""
    return sound.codec.startswith("pcm")


def _shares_id(job: Job, sound: AudioSettings) -> bool:
    """Whether the track's packet id names two streams to the engine: TrueHD and its core. A filter takes the first."""
    return sound.action is Action.ENCODE and job.title.audio[sound.track].codec == "truehd"


def _alpha3(tag: str) -> str:
    """The three-letter code that MP4 and Matroska store (ISO 639-2)."""
    try:
        return langcodes.Language.get(tag).to_alpha3(variant="B")
    except LookupError:
        return "und"
