"""Arguments, filter graphs and progress, all without starting anything."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest

from rheon.core.commands.making import Job, build_command, chapters_document
from rheon.core.commands.making.filters import DrawnText, audio_filters, graph
from rheon.core.commands.making.inputs import drawn_command
from rheon.core.encoding.progress import ProgressReader
from rheon.core.engine import WorkClock
from rheon.core.media import Chapter, FileData, Source, Title
from rheon.core.planning import Action, AudioSettings, Fields, PlanRequest, VideoSettings, plan, read_pins
from rheon.demo.models import device


def command(title: Title, name: str, **pins: str) -> list[str]:
    request = PlanRequest(
        title=title,
        devices=(device(name),),
        name="The Tide: 'in' %d",
        languages=("en",),
        pins=read_pins({key.replace("_", "."): value for key, value in pins.items()}),
    )
    settings = plan(request).settings
    assert settings
    return build_command(Job(title=title, settings=settings, target="/out/.rheon-x.part"))


def after(argv: list[str], flag: str) -> str:
    return argv[argv.index(flag) + 1]


def test_a_disc_title_comes_by_pipe_only_with_its_own_streams(film_disc: Source) -> None:
    argv = command(film_disc.titles[0], "heron-8", sound_track="1", subtitles_track="none")
    assert after(argv, "-protocol_whitelist") == "pipe"
    assert after(argv, "-format_whitelist") == "mpeg"
    assert [argv[at + 1] for at, word in enumerate(argv) if word == "-map"] == ["[out]", "0:i:0x81"]
    assert argv[-1] == "file:/out/.rheon-x.part"
    assert after(argv, "-metadata") == "title=The Tide: 'in' %d"
    assert after(argv, "-metadata:s:a:0") == "language=spa"
    assert (after(argv, "-movflags"), after(argv, "-profile:v"), after(argv, "-level")) == ("+faststart", "high", "3.1")
    assert "-palette" not in argv


def test_no_input_waits_in_a_queue_of_its_own(film_disc: Source) -> None:
    argv = command(film_disc.titles[0], "heron-8")
    inputs = [at for at, word in enumerate(argv) if word == "-i"]
    queues = [at for at, word in enumerate(argv) if word == "-thread_queue_size" and argv[at + 1] == "0"]
    assert len(inputs) == len(queues) == 2
    assert queues[0] < inputs[0] < queues[1] < inputs[1]


def test_drawn_in_disc_subtitles_bring_their_palette_and_their_pad(film_disc: Source) -> None:
    argv = command(film_disc.titles[0], "heron-8", subtitles_track="1")
    assert "[seen][2:s:0]overlay" in after(argv, "-filter_complex")
    pins = read_pins({"subtitles.track": "1"})
    settings = plan(PlanRequest(title=film_disc.titles[0], devices=(device("heron-8"),), name="x", pins=pins)).settings
    assert settings is not None
    laid_out = drawn_command(Job(title=film_disc.titles[0], settings=settings, target="/out/x"))
    assert len(after(laid_out, "-palette").split(",")) == 16
    assert after(laid_out, "-map") == "0:i:0x21"


def test_a_file_is_opened_as_a_file_and_nothing_else(film_disc: Source) -> None:
    title = replace(film_disc.titles[0], data=FileData(path="/media/-odd 'name'.mkv"), container="matroska")
    title = replace(
        title,
        video=replace(title.video, stream_id=None) if title.video else None,
        audio=tuple(replace(track, stream_id=None) for track in title.audio),
    )
    argv = command(title, "heron-8")
    assert after(argv, "-protocol_whitelist") == "file"
    assert not {"hls", "concat", "dash", "lavfi", "image2", "sdp"} & set(after(argv, "-format_whitelist").split(","))
    assert "file:/media/-odd 'name'.mkv" in argv
    assert [argv[at + 1] for at, word in enumerate(argv) if word == "-map"] == ["[out]", "0:a:0"]


def test_copied_streams_go_through_no_filter_and_chapters_only_where_they_can(film_disc: Source) -> None:
    argv = command(film_disc.titles[0], "cormorant-box")
    assert (after(argv, "-c:v"), after(argv, "-c:a:0")) == ("copy", "copy")
    assert "-filter_complex" not in argv
    assert after(argv, "-map_chapters") == "1"
    sound = command(film_disc.titles[0], "sound-only")
    assert (after(sound, "-map_chapters"), after(sound, "-f"), "-c:v" in sound) == ("1", "mpeg", False)
    assert after(command(film_disc.titles[0], "plover-dash"), "-map_chapters") == "-1"


def test_hevc_keeps_its_bounds_in_its_own_words(film_disc: Source) -> None:
    argv = command(film_disc.titles[0], "wren-6", picture_codec="hevc")
    bounds = dict(pair.split("=") for pair in after(argv, "-x265-params").split(":"))
    assert bounds["high-tier"] == "0"
    assert int(bounds["vbv-bufsize"]) <= 2 * int(bounds["vbv-maxrate"])
    assert after(argv, "-tag:v") == "hvc1"


VIDEO = VideoSettings(
    action=Action.ENCODE,
    codec="h264",
    width=768,
    height=576,
    sample_aspect=Fraction(1),
    frame_rate=Fraction(25),
    whole_planes_from=True,
)
SCALED = "setfield=prog,zscale=w=768:h=576:filter=lanczos:c=left"


@pytest.mark.parametrize(
    ("change", "picture", "text", "expected"),
    [
        ({}, None, None, f"[0:V:0]fps=25/1,{SCALED},setsar=1/1,format=yuv420p[out]"),
        (
            {"fields": Fields.JOIN, "top_field_first": False, "bit_depth": 10},
            None,
            None,
            f"[0:V:0]bwdif=mode=send_frame:parity=bff:deint=all,fps=25/1,{SCALED},setsar=1/1,format=yuv420p10le[out]",
        ),
        (
            {"sample_aspect": Fraction(16, 15)},
            "0:s:2",
            None,
            f"[0:V:0]fps=25/1,settb=AVTB[seen];[seen][0:s:2]overlay=eof_action=pass,{SCALED},setsar=16/15,"
            "format=yuv420p[out]",
        ),
        (
            {},
            None,
            DrawnText(file="source", track=1),
            f"[0:V:0]fps=25/1,{SCALED},setsar=1/1,subtitles=filename=source:si=1,format=yuv420p[out]",
        ),
        (
            {"fields": Fields.KEEP},
            None,
            None,
            "[0:V:0]setfield=tff,fps=25/1,scale=768:576:flags=lanczos:interl=1,setsar=1/1,format=yuv420p[out]",
        ),
        (
            {"whole_planes_from": False, "bit_depth_from": 10},
            None,
            None,
            "[0:V:0]fps=25/1,scale=768:576:flags=lanczos,setsar=1/1,format=yuv420p[out]",
        ),
        (
            {"bit_depth_from": 10},
            None,
            None,
            f"[0:V:0]fps=25/1,{SCALED}:dither=ordered,setsar=1/1,format=yuv420p[out]",
        ),
    ],
)
def test_the_graph_says_each_step_in_its_order(
    change: dict[str, object], picture: str | None, text: tuple[str, int] | None, expected: str
) -> None:
    assert graph(replace(VIDEO, **change), "0:V:0", picture, text) == expected  # type: ignore[arg-type]


def test_a_downmix_keeps_the_centre_louder_than_anything_else() -> None:
    made = AudioSettings(
        action=Action.ENCODE, track=0, codec="aac", channels=2, sample_rate=48000, source_channels=6, bitrate_bps=1
    )
    mixed = audio_filters(made)
    left = mixed.partition("FL=")[2].partition("|")[0]
    gains = {part.partition("*")[2]: float(part.partition("*")[0]) for part in left.split("+")}
    assert max(gains, key=lambda channel: gains[channel]) == "FC"
    assert "alimiter" in mixed
    assert "pan" not in audio_filters(replace(made, source_channels=2))


def test_chapter_names_are_escaped_and_ends_meet_starts() -> None:
    text = chapters_document((Chapter(number=1, start_s=0.0), Chapter(number=2, start_s=1.5, name="a=b;#\nc\\")), 4.0)
    assert text.splitlines()[:6] == [
        ";FFMETADATA1",
        "[CHAPTER]",
        "TIMEBASE=1/1000",
        "START=0",
        "END=1500",
        "title=Chapter 1",
    ]
    assert "title=a\\=b\\;\\#\\\nc\\\\" in text


def test_progress_is_read_from_whole_reports_only() -> None:
    now_s = iter((0.0, 3.0, 4.0, 4.5))
    reader = ProgressReader(10.0, WorkClock(time_s=lambda: next(now_s)), 1.0)
    lines = ["frame=12", "out_time_us=2500000", "total_size=1000", "progress=continue"]
    steps = [reader.line(line) for line in lines]
    assert steps[:-1] == [None] * 3
    step = steps[-1]
    assert step is not None
    assert (step.fraction, step.speed, step.size_bytes, step.worked_s) == (0.25, 2.5, 1000, 3.0)
    reader.line("out_time_us=N/A")
    unknown = reader.line("progress=continue")
    assert unknown is not None
    assert (unknown.fraction, unknown.speed) == (0.0, 0.0)
