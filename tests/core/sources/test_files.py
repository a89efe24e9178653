"""Loose files and folders of them, made by the engine."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from tests.instruments.engine import output_of

from rheon.core.engine import Command, run
from rheon.core.errors import EmptyDisc, Stopped
from rheon.core.media import FileData, Forced, Role, Source, SubtitlePurpose
from rheon.core.sources import ScanProgress, read_source
from rheon.core.wording import problem_text

PICTURE = ("-f", "lavfi", "-i", "testsrc2=size=176x144:rate=25:duration=2")
SOUND = ("-f", "lavfi", "-i", "sine=frequency=330:duration=2")


def make(path: Path, *arguments: str) -> Path:
    output_of(["ffmpeg", "-v", "error", "-nostdin", "-y", *arguments, str(path)])
    return path


@pytest.fixture(scope="module")
def tide_watch(media: Path) -> Source:
    return read_source(media / "Tide Watch")


def test_a_folder_is_one_source_with_its_episodes_in_order(tide_watch: Source) -> None:
    assert (tide_watch.kind, tide_watch.form, tide_watch.label) == ("files", "folder", "Tide Watch")
    assert [(title.number, title.role, title.key) for title in tide_watch.titles] == [
        (1, Role.EPISODE, "Tide Watch S01E01 1.mp4"),
        (2, Role.EPISODE, "Tide Watch S01E02 2.mp4"),
        (3, Role.EPISODE, "Tide Watch S01E10 10.mp4"),
    ]
    assert [title.name for title in tide_watch.titles][2] == "Tide Watch S01E10 10"


def test_subtitles_and_pictures_beside_a_file_belong_to_it(tide_watch: Source, media: Path) -> None:
    first, second = tide_watch.titles[:2]
    assert [(t.format, t.language, Path(t.path or "").name) for t in first.subtitles] == [
        ("subrip", "es", "Tide Watch S01E01 1.es.srt")
    ]
    assert second.subtitles == ()
    assert [Path(title.artwork.path).name for title in (first, second) if title.artwork] == ["cover.jpg"] * 2


def test_marks_in_a_sidecar_s_name_say_what_it_is_for(tmp_path: Path, media: Path) -> None:
    film = tmp_path / "Film.mp4"
    shutil.copy(media / "camera" / "Kite day.mp4", film)
    for name in ("Film.srt", "Film.pt-BR.forced.srt", "Film.en.sdh.srt", "Filmed later.srt", "Film.fr.srt"):
        (tmp_path / name).write_text("1\n00:00:01,000 --> 00:00:02,000\nHello\n")
    (tmp_path / "Film.de.srt").write_bytes(b"\0\1\2 no subtitles at all")
    found = read_source(film).titles[0].subtitles
    assert [(t.language, t.forced, t.purpose) for t in found] == [
        ("en", Forced.UNKNOWN, SubtitlePurpose.CAPTIONS),
        ("fr", Forced.UNKNOWN, SubtitlePurpose.UNKNOWN),
        ("pt-BR", Forced.ALL, SubtitlePurpose.UNKNOWN),
        ("und", Forced.UNKNOWN, SubtitlePurpose.UNKNOWN),
    ]
    assert [t.index for t in found] == [0, 1, 2, 3]


@pytest.mark.parametrize(
    ("name", "codecs", "container", "seen"),
    [
        ("a.wmv", ("-c:v", "wmv2", "-c:a", "wmav2"), "asf", ("wmv2", "wmav2")),
        ("a.mpg", ("-c:v", "mpeg1video", "-c:a", "mp2"), "mpeg_ps", ("mpeg1video", "mp2")),
        ("a.ts", ("-c:v", "libx264", "-c:a", "aac"), "mpeg_ts", ("h264", "aac")),
        (
            "a.m2ts",
            ("-c:v", "libx264", "-c:a", "ac3", "-f", "mpegts", "-mpegts_m2ts_mode", "1"),
            "mpeg_ts",
            ("h264", "ac3"),
        ),
        ("a.flv", ("-c:v", "flv1", "-c:a", "libmp3lame", "-ar", "44100"), "flv", ("flv1", "mp3")),
        ("a.webm", ("-c:v", "libvpx", "-c:a", "libvorbis"), "webm", ("vp8", "vorbis")),
        ("a.ogv", ("-c:v", "libtheora", "-c:a", "libvorbis"), "ogg", ("theora", "vorbis")),
        ("a.ogm", ("-c:v", "libtheora", "-c:a", "libvorbis", "-f", "ogg"), "ogg", ("theora", "vorbis")),
        ("a.3gp", ("-c:v", "h263", "-c:a", "aac", "-ar", "16000"), "mp4", ("h263", "aac")),
        ("a.mov", ("-c:v", "mpeg4", "-c:a", "pcm_s16le"), "mp4", ("mpeg4", "pcm_s16le")),
        ("a.vob", ("-c:v", "mpeg2video", "-c:a", "ac3", "-f", "vob"), "mpeg_ps", ("mpeg2video", "ac3")),
    ],
)
def test_files_of_every_kind_are_read(
    tmp_path: Path, name: str, codecs: tuple[str, ...], container: str, seen: tuple[str, str]
) -> None:
    title = read_source(make(tmp_path / name, *PICTURE, *SOUND, *codecs)).titles[0]
    assert title.video is not None
    assert (title.container, title.video.codec, title.audio[0].codec) == (container, *seen)
    assert title.duration_s == pytest.approx(2, abs=0.3)


@pytest.mark.parametrize(
    ("name", "codec"),
    [("a.mp3", "mp3"), ("a.flac", "flac"), ("a.opus", "opus"), ("a.m4a", "aac"), ("a.wav", "pcm_s16le")],
)
def test_files_with_sound_only_are_titles(tmp_path: Path, name: str, codec: str) -> None:
    path = make(tmp_path / name, *SOUND, "-metadata", "title=Low water", "-metadata", "artist=The Waders")
    title = read_source(path).titles[0]
    assert (title.video, title.audio[0].codec, title.reasons[0].code) == (None, codec, "only_sound")
    if codec in ("mp3", "flac", "opus"):
        assert (title.tags["title"], title.tags["artist"]) == ("Low water", "The Waders")


def test_an_attached_picture_is_artwork_and_not_video(tmp_path: Path) -> None:
    cover = make(tmp_path / "cover.png", "-f", "lavfi", "-i", "color=teal:size=300x300", "-frames:v", "1")
    song = make(
        tmp_path / "song.mp3", *SOUND, "-i", str(cover), "-map", "0:a", "-map", "1:v", "-disposition:v", "attached_pic"
    )
    title = read_source(song).titles[0]
    assert title.video is None
    assert title.artwork is not None
    assert (Path(title.artwork.path).name, title.artwork.stream) == ("song.mp3", 1)


def test_frame_rates_that_vary_are_noticed(tmp_path: Path) -> None:
    uneven = make(tmp_path / "uneven.mp4", *PICTURE, "-vf", "select=not(mod(n\\,3))+lt(n\\,12)", "-fps_mode", "vfr")
    even = make(tmp_path / "even.mp4", *PICTURE)
    found = [read_source(path).titles[0].video for path in (uneven, even)]
    assert [video.variable_rate for video in found if video] == [True, False]


def test_a_recording_without_an_index_still_has_a_length(tmp_path: Path) -> None:
    whole = make(tmp_path / "whole.mkv", *PICTURE, *SOUND, "-c:a", "aac")
    pipe = run(
        Command(
            argv=["ffmpeg", "-v", "error", "-i", str(whole), "-c", "copy", "-f", "matroska", "-live", "1", "pipe:1"]
        )
    )
    live = tmp_path / "live.mkv"
    live.write_bytes(pipe.stdout)
    assert read_source(live).titles[0].duration_s == pytest.approx(2, abs=0.2)


def test_what_can_t_be_read_in_a_folder_is_named_and_the_rest_is_there(tmp_path: Path, media: Path) -> None:
    folder = tmp_path / "mixed"
    (folder / "Season 1").mkdir(parents=True)
    shutil.copy(media / "camera" / "Kite day.mp4", folder / "Season 1" / "Episode 2.mp4")
    shutil.copy(media / "camera" / "Kite day.mp4", folder / "the trailer.mp4")
    (folder / "broken.mkv").write_text("not a film")
    (folder / ".hidden.mp4").write_text("x")
    read = read_source(folder)
    assert [(t.key, t.role, t.reasons[0].code) for t in read.titles] == [
        ("the trailer.mp4", Role.EXTRA, "named_extra"),
        ("Season 1/Episode 2.mp4", Role.EPISODE, "numbered_episode"),
    ]
    assert [problem.code for problem in read.problems] == ["not_a_source"]
    assert problem_text(read.problems[0]).startswith("broken.mkv: ")


def test_a_folder_with_nothing_to_read_is_refused_and_reading_can_be_stopped(tmp_path: Path, media: Path) -> None:
    folder = tmp_path / "empty"
    folder.mkdir()
    (folder / "broken.mkv").write_text("not a film")
    with pytest.raises(EmptyDisc):
        read_source(folder)
    with pytest.raises(Stopped):
        read_source(media / "Tide Watch", ScanProgress(should_stop=lambda: True))


def test_a_part_of_a_file_starts_where_its_chapters_do(tmp_path: Path) -> None:
    chapters = tmp_path / "chapters.txt"
    marks = [(0, 500), (500, 1200), (1200, 2000)]
    chapters.write_text(
        ";FFMETADATA1\n" + "".join(f"[CHAPTER]\nTIMEBASE=1/1000\nSTART={a}\nEND={b}\ntitle=at {a}\n" for a, b in marks)
    )
    path = make(tmp_path / "a.mkv", *PICTURE, "-f", "ffmetadata", "-i", str(chapters), "-map_chapters", "1")
    from rheon.core.sources.roles.parts import ChapterRange, cut

    part = cut(read_source(path).titles[0], ChapterRange(first=2, last=3), 101)
    assert isinstance(part.data, FileData)
    assert [c.name for c in part.chapters] == ["at 500", "at 1200"]
    # with the first picture from there on
    assert (part.data.from_s, part.duration_s) == pytest.approx((0.5, 1.5), abs=0.04)
