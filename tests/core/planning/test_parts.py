"""The planner's parts, each by itself."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import AudioEntry, VideoEntry, preferred_audio
from rheon.core.devices.tracks import needed_subtitle
from rheon.core.formats import levels_of
from rheon.core.media import AudioStream, Purpose, Scan, Source, SubtitleStream, Title, VideoStream
from rheon.core.planning import NO_PINS, Action, AudioSettings, Balance, Fields, PlanRequest, plan
from rheon.core.planning.picture.frame_rate import plan_frame_rate
from rheon.core.planning.picture.geometry import Bounds, fit
from rheon.demo.models import device

NTSC = Fraction(30000, 1001)


def picture(
    width: int, height: int, aspect: str = "1", rate: Fraction = Fraction(25), scan: Scan = Scan.PROGRESSIVE
) -> VideoStream:
    return VideoStream(
        codec="mpeg2video", width=width, height=height, frame_rate=rate, sample_aspect=Fraction(aspect), scan=scan
    )


def bounds(width: int, height: int, level: str | None = None) -> Bounds:
    return Bounds(
        width=width, height=height, level=levels_of("h264", "main")[level] if level else None, limited_by="decoder"
    )


# 720x480 and 720x576, shown 4:3 and 16:9, on decoders of several sizes
@pytest.mark.parametrize(
    ("source", "limit", "expected"),
    [
        (picture(720, 480, "32/27"), bounds(1920, 1080), (854, 480, "square_pixels")),
        (picture(720, 480, "8/9"), bounds(1920, 1080), (640, 480, "square_pixels")),
        (picture(720, 576, "64/45"), bounds(1920, 1080), (1024, 576, "square_pixels")),
        (picture(720, 576, "16/15"), bounds(1920, 1080), (768, 576, "square_pixels")),
        (picture(720, 576, "64/45"), bounds(720, 576), (720, 404, "fits_decoder")),
        (picture(1920, 1080), bounds(1280, 800), (1280, 720, "fits_decoder")),
        (picture(320, 240), bounds(1920, 1080), (320, 240, "kept_size")),
        (picture(1920, 1080), bounds(1920, 1080, "3"), (960, 540, "fits_level")),
        (picture(1921, 1081), bounds(4096, 4096), (1920, 1080, "kept_size")),
    ],
)
def test_pictures_are_fitted_as_the_trade_would(
    source: VideoStream, limit: Bounds, expected: tuple[int, int, str]
) -> None:
    made = fit(source, Fraction(25), limit, square=True)
    if expected[2] == "fits_level":
        assert made.reason.code == "fits_level"
        assert levels_of("h264", "main")["3"].holds_picture(made.width, made.height, Fraction(25))
        assert not levels_of("h264", "main")["3"].holds_picture(made.width + 32, made.height + 18, Fraction(25))
        return
    assert (made.width, made.height, made.reason.code) == expected


@given(st.integers(16, 5000), st.integers(16, 3000), st.integers(64, 4096), st.integers(64, 2304))
def test_a_fitted_picture_is_even_inside_and_not_enlarged(width: int, height: int, most_w: int, most_h: int) -> None:
    made = fit(picture(width, height), Fraction(25), bounds(most_w, most_h), square=True)
    assert made.width % 2 == made.height % 2 == 0
    assert made.width <= max(16, most_w)
    assert made.height <= max(16, most_h)
    assert made.height <= max(16, height)


@pytest.mark.parametrize(
    ("source", "limit", "rate", "code"),
    [
        (picture(720, 480, rate=NTSC, scan=Scan.TELECINED), "60", Fraction(24000, 1001), "film_restored"),
        (picture(720, 576, scan=Scan.INTERLACED), "60", Fraction(25), "fields_joined"),
        (picture(720, 576), "30", Fraction(25), "source_rate"),
        (picture(1280, 720, rate=Fraction(60)), "30", Fraction(30), "rate_limited"),
        (picture(1280, 720, rate=Fraction(120)), "50", Fraction(30), "rate_limited"),
    ],
)
def test_a_rate_is_kept_where_the_device_takes_it_and_halved_where_not(
    source: VideoStream, limit: str, rate: Fraction, code: str
) -> None:
    entry = VideoEntry(codec="h264", max_width=1920, max_height=1080, max_frame_rate=limit)
    made = plan_frame_rate(source, entry, NO_PINS)
    assert (made.frame_rate, made.rate_reason.code) == (rate, code)
    assert (made.fields is Fields.JOIN) == (source.scan is Scan.INTERLACED)


def track(
    index: int, language: str, channels: int = 2, purpose: Purpose = Purpose.UNKNOWN, codec: str = "ac3"
) -> AudioStream:
    return AudioStream(
        index=index, codec=codec, channels=channels, sample_rate=48000, language=language, purpose=purpose
    )


@pytest.mark.parametrize(
    ("tracks", "languages", "chosen"),
    [
        ([track(0, "es"), track(1, "en")], ("en",), 1),
        ([track(0, "en", 2), track(1, "en", 6)], ("en",), 1),
        ([track(0, "en", 6, Purpose.COMMENTARY), track(1, "en", 2)], ("en",), 1),
        ([track(0, "en", 6, Purpose.COMMENTARY), track(1, "ja", 2)], ("en",), 1),
        ([track(0, "de"), track(1, "fr")], ("en", "fr"), 1),
        ([track(0, "pt-BR"), track(1, "de")], ("pt",), 0),
        ([track(0, "und"), track(1, "und", 6)], (), 1),
        ([track(0, "en", 6, Purpose.COMMENTARY)], ("en",), 0),
    ],
)
def test_the_track_people_mean(tracks: list[AudioStream], languages: tuple[str, ...], chosen: int) -> None:
    found = preferred_audio(tracks, languages)
    assert found is not None
    assert found.index == chosen


def test_a_title_without_sound_has_no_track_and_needs_no_subtitles() -> None:
    subtitles = [SubtitleStream(index=0, format="subrip", language="en")]
    assert preferred_audio([], ("en",)) is None
    assert needed_subtitle(subtitles, None, ("en",)) is None
    assert needed_subtitle(subtitles, track(0, "und"), ("en",)) is None
    assert needed_subtitle(subtitles, track(0, "ja"), ("en",)) == subtitles[0]
    assert needed_subtitle(subtitles, track(0, "en-GB"), ("en",)) is None


def sound_of(title: Title, audio: AudioStream, name: str, balance: Balance = Balance.EVEN) -> AudioSettings:
    request = PlanRequest(
        title=replace(title, audio=(audio,)), devices=(device(name),), name="x", languages=("en",), balance=balance
    )
    settings = plan(request).settings
    assert settings and settings.audio
    return settings.audio[0]


@pytest.mark.parametrize(
    ("audio", "name", "expected"),
    [
        (track(0, "en", 6), "heron-8", (Action.ENCODE, "aac", 2, 48000)),
        (track(0, "en", 6), "gannet-43", (Action.COPY, "ac3", 6, 48000)),
        (track(0, "en", 6, codec="dts"), "gannet-43", (Action.ENCODE, "ac3", 6, 48000)),
        (track(0, "en", 6, codec="dts"), "cormorant-box", (Action.COPY, "dts", 6, 48000)),
        (track(0, "en", 8, codec="truehd"), "avocet-10", (Action.ENCODE, "aac", 6, 48000)),
        (track(0, "en", 1, codec="pcm_dvd"), "plover-dash", (Action.ENCODE, "mp3", 1, 48000)),
        (replace(track(0, "en", 2, codec="flac"), sample_rate=96000), "wren-6", (Action.ENCODE, "aac", 2, 48000)),
        (replace(track(0, "en", 2, codec="flac"), sample_rate=22050), "wren-6", (Action.ENCODE, "aac", 2, 32000)),
        (replace(track(0, "en", 2), sample_rate=44100), "gannet-43", (Action.ENCODE, "aac", 2, 44100)),
        (track(0, "en", 3), "gannet-43", (Action.COPY, "ac3", 3, 48000)),
    ],
)
def test_sound_is_copied_where_it_can_be_and_else_fits_the_device(
    film_disc: Source, audio: AudioStream, name: str, expected: tuple[Action, str, int, int]
) -> None:
    made = sound_of(film_disc.titles[0], audio, name)
    assert (made.action, made.codec, made.channels, made.sample_rate) == expected


def test_sound_never_takes_more_than_the_device_allows(film_disc: Source) -> None:
    rates = [
        sound_of(film_disc.titles[0], track(0, "en", 6), "sanderling-2", balance).bitrate_bps for balance in Balance
    ]
    assert rates == [96_000, 128_000, 160_000, 160_000, 160_000]
    assert AudioEntry(codec="aac").max_channels == 2


def test_a_balance_moves_size_time_and_quality_together(film_disc: Source) -> None:
    made = [
        plan(PlanRequest(title=film_disc.titles[0], devices=(device("heron-8"),), name="x", balance=balance))
        for balance in Balance
    ]
    sizes = [entry.estimate.size_bytes for entry in made if entry.estimate]
    times = [entry.estimate.time_s for entry in made if entry.estimate]
    qualities = [entry.settings.video.quality for entry in made if entry.settings and entry.settings.video]
    assert sizes == sorted(set(sizes))
    assert times == sorted(times)
    assert qualities == sorted(qualities, key=lambda q: -(q or 0))
