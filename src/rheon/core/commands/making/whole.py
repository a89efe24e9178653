"""From a title and its settings to the engine's argument list. Pure: nothing is opened or started here."""

from __future__ import annotations

import langcodes

from ...formats import AUDIO_CODECS, CONTAINERS, SUBTITLE_FORMATS
from ...media import (
    Action,
    AudioSettings,
    CellData,
    Chapter,
    FileData,
    OutputSettings,
    SubtitleForm,
    SubtitleSettings,
    Title,
)
from ...media.cell_seams import has_seams
from ...media.tags import LONGEST_TAG, shortened
from ..inputs import audio_specifier, subtitle_specifier, video_specifier
from ..names import LINK_NAME, subtitle_file
from ..start import QUIET
from .concat import begins_s, concat_pictures, concat_sound
from .encoders import Placing, audio_arguments, early_of, handed_over, opened_hardware, video_arguments
from .filters import DrawnText, Timing, audio_filters, graph, just_before
from .inputs import chapters_input, drawn_inputs, drawn_place, main_inputs, side_inputs, until
from .job import Job

BLURAY_SUFFIX = ".m2ts"
SIDE_SUFFIX = "srt"
STANDS_S = 1.0
REORDERED_S = 0.5
"""So much later pictures may be stored than they are shown."""
UNNEEDED = {("h264", "mp4"): "filter_units=remove_types=7-9", ("h264", "matroska"): "filter_units=remove_types=9"}
"""What takes out of a codec's pictures what a transport stream needs in them and a container holds by itself."""
TICKS = {"matroska": "0.001", "webm": "0.001", "asf": "0.001", "mpeg_ts": "1/90000", "mp4": "1/90000"}
"""What pictures' times are counted in when they are written, which the filter itself does not know."""
AT_ONCE = ("-cluster_time_limit", "200", "-flush_packets", "1", "-avoid_negative_ts", "disabled")
"""Has what is muxed into Matroska written five times a second rather than every five seconds, and sound that begins
before zero, as encoders make it, not move the pictures.
"""


def build_command(job: Job, at_pass: int = 0) -> list[str]:
    """The whole argument list; ``at_pass`` is 1 or 2 where there are two.

    Chapters come from ``chapters.txt``, text subtitles from ``source`` or ``subtitles-N.srt``.
    """
    made = job.settings
    head = [*QUIET, "-nostats", "-progress", "pipe:1", "-y", *opened_hardware(made.video), *main_inputs(job)]
    if at_pass == 1 and made.video:
        head += [*chapters_input(job), *side_inputs(job), *drawn_inputs(job)]
        picture = [*_picture_map(job), *video_arguments(made.video, made.container, at_pass), *_limit(job)]
        return [*head, *picture, "-an", "-sn", "-f", "null", "-"]
    return [
        *head,
        *chapters_input(job),
        *side_inputs(job),
        *drawn_inputs(job),
        *_picture_map(job),
        *_sound_maps(job),
        *_subtitle_maps(job),
        *(video_arguments(made.video, made.container, at_pass) if made.video else ()),
        *_between_edges(job),
        *(part for place, sound in enumerate(made.audio)
          for part in audio_arguments(sound, _placing(job, sound, place))),
        *_metadata(job),
        "-max_muxing_queue_size", "4096",
        *_muxing(job),
        *_limit(job),
        "-f", "matroska" if job.read_along else CONTAINERS[made.container].muxer, f"file:{job.target}",
        *_side_files(job),
    ]  # fmt: skip


def _muxing(job: Job) -> tuple[str, ...]:
    if job.read_along:
        return AT_ONCE
    blu_ray = job.settings.file_name.lower().endswith(BLURAY_SUFFIX)
    return (*CONTAINERS[job.settings.container].muxing, *(("-mpegts_m2ts_mode", "1") if blu_ray else ()))


def chapters_document(chapters: tuple[Chapter, ...], duration_s: float) -> str:
    """Chapters in ffmpeg's metadata format; times in milliseconds."""
    lines = [";FFMETADATA1"]
    ends = [chapter.start_s for chapter in chapters[1:]] + [duration_s]
    for chapter, end in zip(chapters, ends, strict=True):
        escaped = "".join(f"\\{letter}" if letter in "=;#\\\n" else letter for letter in _chapter_name(chapter))
        start_ms, end_ms = round(chapter.start_s * 1000), round(end * 1000)
        lines += ["[CHAPTER]", "TIMEBASE=1/1000", f"START={start_ms}", f"END={end_ms}", f"title={escaped}"]
    return "\n".join(lines) + "\n"


def side_file(job: Job, subtitle: SubtitleSettings) -> str:
    """The temporary name of a text file that is delivered beside the film."""
    return f"{job.target}.{subtitle.track}.{SIDE_SUFFIX}"


def drawn_text(title: Title, track: int) -> DrawnText:
    """Where the engine finds a text track: in the source itself, or written anew beside it from a sidecar file."""
    start_s = title.data.from_s if isinstance(title.data, FileData) else 0.0
    if title.subtitles[track].path is not None:
        return DrawnText(file=subtitle_file(track), track=0, start_s=start_s)
    return DrawnText(file=LINK_NAME, track=title.subtitles[track].in_file, start_s=start_s)


def _chapter_name(chapter: Chapter) -> str:
    # an MP4's own list would cut a longer one in the middle of a sign
    return shortened(chapter.name or f"Chapter {chapter.number}", LONGEST_TAG)


def _metadata(job: Job) -> list[str]:
    """Names and languages, and room for all tags, which are written when the file is made; of the source's own only
    what people wrote into a sound file.
    """
    made = job.settings
    head = ["-map_metadata", "-1", "-map_chapters", "-1"]
    if job.carries_chapters:
        head = ["-map_metadata", f"{job.inputs}", "-map_metadata:s", "-1", "-map_chapters", f"{job.inputs}"]
    tags = {**(job.title.tags if made.video is None else {}), **_general_tags(made)}
    said = [part for key, value in tags.items() for part in ("-metadata", f"{key}={value}")]
    if made.container == "flac" and job.carries_chapters:
        said += _comment_chapters(job.title.chapters)
    for place, sound in enumerate(made.audio):
        said += [f"-metadata:s:a:{place}", f"language={_alpha3(sound.language)}"]
    if len(made.audio) > 1:
        said += [part for place in range(len(made.audio)) for part in _default("a", place, on=place == 0)]
    tracks = [subtitle for subtitle in made.subtitles if subtitle.form is SubtitleForm.TRACK]
    for place, subtitle in enumerate(tracks):
        said += [f"-metadata:s:s:{place}", f"language={_alpha3(subtitle.language)}", *_default("s", place, on=False)]
    return [*head, *said]


def _general_tags(made: OutputSettings) -> dict[str, str]:
    """What every muxer knows a place for; where tags need room, the comment keeps it."""
    tags = made.tags
    said = {
        "title": tags.shown_title,
        "artist": tags.artist or tags.director,
        "genre": tags.genre,
        "date": "" if tags.year is None else str(tags.year),
        "comment": " " * CONTAINERS[made.container].tags_room or tags.comment or tags.description,
    }
    return {key: text for key, text in said.items() if text}


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


def _limit(job: Job) -> list[str]:
    """The end once more for the output: the input's bounds pictures and sound, but lets later subtitles through.

    What a disc's feed brings before the title's first moment and behind its end is cut here.
    """
    data, length = job.title.data, until(job.title.duration_s)
    if job.pieces:
        # each piece is cut by itself
        return []
    if job.settings.kept and job.copies_picture and (job.own_zero or isinstance(data, FileData)):
        # what lies before the beginning is read along, and left out
        return ["-copypriorss", "0", *_copied_until(job)]
    if isinstance(data, CellData):
        own = job.own_zero
        ends = data.cells[-1].lap or job.title.part_of is not None
        before = own and (data.cells[0].lead or data.skip_s or job.title.part_of is not None)
        return [*(("-copypriorss", "0") if before else ()), *(length if own and ends else ())]
    if job.title.part_of is None:
        return []
    # read from its start, a file's length counts from the first picture, which may come late
    return length if job.lead_s or not data.from_s or job.settings.subtitles else []


def _copied_until(job: Job) -> list[str]:
    """The end of a copied picture by the times at which pictures are shown, not by those at which they are read."""
    length_s, container = job.title.duration_s, job.settings.container
    tick = TICKS.get(container)
    if tick is None:
        return until(length_s)
    ends = "noise=drop='gte(pts*{tick},{end})'"
    said = [] if job.has_edges else ["-bsf:v", ends.format(tick=tick, end=just_before(length_s)), *_finely_counted(job)]
    for place, sound in enumerate(job.settings.audio):
        own = f"1/{sound.sample_rate}" if container == "mp4" else tick
        said += [f"-bsf:a:{place}", ends.format(tick=own, end=just_before(length_s))]
    return [*said, *until(length_s + REORDERED_S)]


def _finely_counted(job: Job) -> list[str]:
    return ["-video_track_timescale", "90000"] if job.settings.container == "mp4" else []


def _between_edges(job: Job) -> list[str]:
    """What is done to pictures that were put together of copied and encoded ones."""
    made = job.settings.video
    if made is None or not job.has_edges:
        return []
    without = UNNEEDED.get((made.codec, job.settings.container))
    turned = job.title.video.rotation if job.title.video else 0
    return [
        *(["-bsf:v", without] if without else []),
        *_finely_counted(job),
        *(["-metadata:s:v:0", f"rotate={turned}"] if turned else []),
    ]


def _copied_from(job: Job) -> int:
    """The input that holds all parts one after the other where they are copied, else the title itself."""
    return job.inputs - 1 if job.copies_parts else 0


def _picture_map(job: Job) -> list[str]:
    made, title = job.settings, job.title
    if made.video is None:
        return []
    if job.has_edges:
        return ["-map", f"{job.inputs - 1}:V:0"]
    if made.video.action is Action.COPY:
        return ["-map", video_specifier(title, _copied_from(job))]
    if job.pieces:
        shown = concat_pictures(job, [picture_graph(piece, _text_from_s(job, piece)) for piece in job.each])
    else:
        shown = picture_graph(job)
    if last := handed_over(made.video):
        # once all pieces are one: pictures on a device belong to what put them there
        return ["-filter_complex", f"{shown};[out]{','.join(last)}[given]", "-map", "[given]"]
    return ["-filter_complex", shown, "-map", "[out]"]


def _text_from_s(job: Job, piece: Job) -> float | None:
    """Where a piece of a joined title begins in its text, which was written for the whole."""
    return begins_s(job, piece.number) if job.title.joined else None


def picture_graph(job: Job, text_from_s: float | None = None) -> str:
    """The graph from a title's, or a piece's, stored picture to ``[out]``.

    ``text_from_s`` is where the piece begins in the text to draw, where that is not its own.
    """
    made, title = job.settings, job.title
    assert made.video is not None
    drawn = made.drawn
    there = drawn is not None and not title.subtitles[drawn.track].absent
    picture = f"{drawn_place(job)}:s:0" if drawn and there and not drawn.is_text else None
    text = drawn_text(title, drawn.track) if drawn and there and drawn.is_text else None
    if text is not None and text_from_s is not None:
        text = DrawnText(file=subtitle_file(drawn.track if drawn else 0), track=0, start_s=text_from_s)
    return graph(made.video, video_specifier(title, job.number), picture, text, _timing(job))


def _timing(job: Job) -> Timing:
    data = job.title.data
    return Timing(
        phase_s=job.phase_s,
        cut_before=job.own_zero,
        lead_s=job.lead_s,
        leads=isinstance(data, CellData) and has_seams(data),
        stands_s=STANDS_S if job.pieces else 0.0,
    )


def _placing(job: Job, sound: AudioSettings, place: int) -> Placing:
    filtered = not job.pieces and not _shares_id(job, sound) and not _plain(sound)
    return Placing(place=place, early_s=job.phase_s + job.lead_s, container=job.settings.container, filtered=filtered)


def _sound_maps(job: Job) -> list[str]:
    maps: list[str] = []
    for place, sound in enumerate(job.settings.audio):
        if job.pieces and not (job.copies_parts and sound.action is Action.COPY):
            maps += ["-filter_complex", concat_sound(job, place), "-map", f"[sound{place}]"]
            continue
        specifier = audio_specifier(job.title, sound.track, _copied_from(job))
        if _shares_id(job, sound):
            heard = audio_filters(sound, early_of(sound, _placing(job, sound, place)))
            maps += ["-filter_complex", f"[{specifier}]{heard}[sound{place}]", "-map", f"[sound{place}]"]
        else:
            maps += ["-map", specifier]
    return maps


def _subtitle_maps(job: Job) -> list[str]:
    said: list[str] = []
    tracks = [subtitle for subtitle in job.settings.subtitles if subtitle.form is SubtitleForm.TRACK]
    for place, subtitle in enumerate(tracks):
        said += ["-map", _subtitle_specifier(job, subtitle), *_subtitle_codec(job, subtitle, place)]
    return said


def _subtitle_specifier(job: Job, subtitle: SubtitleSettings) -> str:
    sides = job.side_tracks
    if subtitle in sides:
        return f"{job.inputs + job.carries_chapters + sides.index(subtitle)}:s:0"
    return subtitle_specifier(job.title, subtitle.track, _copied_from(job))


def _subtitle_codec(job: Job, subtitle: SubtitleSettings, place: int) -> list[str]:
    source, data = job.title.subtitles[subtitle.track].format, job.title.data
    if subtitle.format == "dvd_subtitle" and not isinstance(data, FileData):
        # a disc keeps the palette in its tables; written anew, the pictures carry it and their canvas with them
        palette = [f"-palette:s:{place}", ",".join(data.palette)] if data.palette else []
        video = job.title.video
        canvas = [f"-s:s:{place}", f"{video.width}x{video.height}"] if video else []
        return [f"-c:s:{place}", SUBTITLE_FORMATS[subtitle.format].encoder or "", *canvas, *palette]
    if subtitle.format == source and subtitle not in job.side_tracks:
        return [f"-c:s:{place}", "copy"]
    return [f"-c:s:{place}", SUBTITLE_FORMATS[subtitle.format].encoder or subtitle.format]


def _side_files(job: Job) -> list[str]:
    said: list[str] = []
    for subtitle in job.settings.subtitles:
        if subtitle.form is SubtitleForm.FILE:
            said += [
                "-map",
                _subtitle_specifier(job, subtitle),
                "-c:s",
                "srt",
                *_limit(job),
                "-f",
                "srt",
                f"file:{side_file(job, subtitle)}",
            ]
    return said


def _plain(sound: AudioSettings) -> bool:
    """Whether the samples only change their name, as in a faithful copy."""
    return AUDIO_CODECS[sound.codec].bits is not None


def _shares_id(job: Job, sound: AudioSettings) -> bool:
    """Whether the track's packet id names two streams to the engine: TrueHD and its core. A filter takes the first."""
    return sound.action is Action.ENCODE and job.title.audio[sound.track].codec == "truehd"


def _alpha3(tag: str) -> str:
    """The three-letter code that MP4 and Matroska store (ISO 639-2)."""
    try:
        return langcodes.Language.get(tag).to_alpha3(variant="B")
    except LookupError:
        return "und"
