"""Generated source facts: anything a disc or file might hold."""

from __future__ import annotations

from fractions import Fraction

from hypothesis import strategies as st

from rheon.core.media import (
    AudioStream,
    Borders,
    Chapter,
    FileData,
    Purpose,
    Scan,
    SubtitleStream,
    Title,
    VideoStream,
)

LANGUAGES = st.sampled_from(["en", "es", "pt-BR", "ja", "und"])
RATES = st.sampled_from(
    [
        Fraction(24000, 1001),
        Fraction(25),
        Fraction(30000, 1001),
        Fraction(50),
        Fraction(60),
        Fraction(120),
        Fraction(15),
    ]
)


@st.composite
def borders(draw: st.DrawFn) -> Borders:
    """None mostly; never so much that nothing is left of the smallest picture."""
    if draw(st.booleans()):
        return Borders()
    top, bottom, left, right = (2 * draw(st.integers(0, 2)) for _ in range(4))
    return Borders(top=top, bottom=bottom, left=left, right=right)


@st.composite
def videos(draw: st.DrawFn) -> VideoStream:
    codec = draw(st.sampled_from(["mpeg2video", "h264", "hevc", "mjpeg", "mpeg4", "vp9"]))
    return VideoStream(
        codec=codec,
        width=draw(st.integers(16, 4200)),
        height=draw(st.integers(16, 2400)),
        frame_rate=draw(RATES),
        sample_aspect=draw(
            st.sampled_from([Fraction(1), Fraction(8, 9), Fraction(32, 27), Fraction(16, 15), Fraction(64, 45)])
        ),
        scan=draw(st.sampled_from(Scan)),
        bit_depth=draw(st.sampled_from([8, 10])),
        profile=draw(st.sampled_from([None, "baseline", "main", "high", "main10"])),
        level=draw(st.sampled_from([None, "3", "4", "5.1"])),
        reference_frames=draw(st.sampled_from([None, 1, 4, 16])),
        bitrate_bps=draw(st.sampled_from([None, 900_000, 9_000_000, 80_000_000])),
        rotation=draw(st.sampled_from([0, 0, 0, 90])),
        borders=draw(borders()),
    )


@st.composite
def audios(draw: st.DrawFn, index: int) -> AudioStream:
    return AudioStream(
        index=index,
        codec=draw(st.sampled_from(["ac3", "aac", "mp3", "dts", "pcm_dvd", "flac", "eac3"])),
        channels=draw(st.sampled_from([1, 2, 3, 6, 8])),
        sample_rate=draw(st.sampled_from([8000, 22050, 44100, 48000, 96000])),
        language=draw(LANGUAGES),
        purpose=draw(st.sampled_from(Purpose)),
        bitrate_bps=draw(st.sampled_from([None, 64_000, 448_000, 1_500_000])),
    )


@st.composite
def titles(draw: st.DrawFn) -> Title:
    duration = draw(st.floats(0.5, 30_000, allow_nan=False))
    count = draw(st.integers(0, 3))
    video = draw(st.one_of(st.none(), videos())) if count else draw(videos())
    subtitles = draw(st.lists(st.tuples(LANGUAGES, st.sampled_from(["dvd_subtitle", "subrip"])), max_size=3))
    return Title(
        number=1,
        duration_s=duration,
        size_bytes=draw(st.integers(1000, 60_000_000_000)),
        data=FileData(path="/nowhere"),
        container=draw(st.sampled_from(["dvd", "mp4", "matroska", "avi", "mpeg_ts"])),
        video=video,
        audio=tuple(draw(audios(index)) for index in range(count)),
        subtitles=tuple(
            SubtitleStream(index=index, format=kind, language=language)
            for index, (language, kind) in enumerate(subtitles)
        ),
        chapters=tuple(Chapter(number=n + 1, start_s=n * duration / 4) for n in range(draw(st.integers(0, 4)))),
    )
