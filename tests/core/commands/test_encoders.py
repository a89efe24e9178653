"""The arguments of every encoder: bounds, passes, colours, each in the encoder's own words."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest

from rheon.core.commands.making.encoders import Placing, audio_arguments, video_arguments
from rheon.core.commands.making.filters import graph
from rheon.core.encoding.progress import ProgressReader
from rheon.core.engine import WorkClock
from rheon.core.formats import PLAYED_MOST, video_encoder
from rheon.core.media import Borders, Colour
from rheon.core.planning import Action, AudioSettings, Fields, VideoSettings

BASE = VideoSettings(
    action=Action.ENCODE,
    codec="h264",
    width=640,
    height=360,
    sample_aspect=Fraction(1),
    frame_rate=Fraction(25),
    peak_bps=4_000_000,
    buffer_bits=6_000_000,
    reference_frames=3,
    b_frames=2,
)
BT601 = Colour(matrix="bt470bg", primaries="bt470bg", transfer="bt470bg")
BT709_FULL = Colour(matrix="bt709", primaries="bt709", transfer="bt709", full_range=True)


def arguments(made: VideoSettings, at_pass: int = 0) -> dict[str, str]:
    argv = video_arguments(made, "mp4", at_pass)
    return dict(zip(argv[::2], argv[1::2], strict=True))


@pytest.mark.parametrize("codec", [codec for codec in PLAYED_MOST if video_encoder(codec).quality])
def test_constant_quality_is_held_inside_a_peak(codec: str) -> None:
    encoder = video_encoder(codec)
    said = arguments(replace(BASE, codec=codec, quality=encoder.quality[2], preset=encoder.preset[2]))
    assert said["-crf"] == str(encoder.quality[2])
    bound = {"hevc": "-x265-params", "av1": "-svtav1-params"}.get(codec, "-maxrate")
    assert {"h264": "4000000", "vp9": "4000000"}.get(codec, "4000" if codec == "hevc" else "2000") in said[bound]


@pytest.mark.parametrize("codec", list(PLAYED_MOST))
def test_an_average_is_said_in_bits_and_passes_where_there_are_two(codec: str) -> None:
    encoder = video_encoder(codec)
    made = replace(BASE, codec=codec, bitrate_bps=1_500_000, preset=encoder.preset[2], passes=2)
    for at_pass in (1, 2) if encoder.two_passes else (0,):
        said = arguments(made, at_pass)
        assert said["-b:v"] == "1500000"
        if codec == "hevc":
            assert f"pass={at_pass}" in said["-x265-params"]
        elif encoder.two_passes:
            assert said["-pass"] == str(at_pass)
        assert ("-pass" in said) is (encoder.two_passes and codec != "hevc")


@pytest.mark.parametrize(
    ("codec", "profile", "level", "expected"),
    [
        ("h264", "main", "3.1", {"-profile:v": "main", "-level": "3.1"}),
        ("mpeg2video", "main", "main", {"-profile:v": "4", "-level:v": "8"}),
        ("mpeg2video", "main", "high", {"-profile:v": "4", "-level:v": "4"}),
        ("mpeg4", "advanced_simple", "5", {"-profile:v": "15", "-level": "5"}),
        ("vp9", "profile2", "4", {"-profile:v": "2"}),
    ],
)
def test_profiles_and_levels_in_each_encoder_s_words(
    codec: str, profile: str, level: str, expected: dict[str, str]
) -> None:
    preset = video_encoder(codec).preset[2]
    said = arguments(replace(BASE, codec=codec, profile=profile, level=level, bitrate_bps=1_000_000, preset=preset))
    assert expected.items() <= said.items()


def test_colours_are_named_in_the_stream_and_turned_by_the_scaler() -> None:
    made = replace(BASE, quality=21, colour=BT601, colour_from=BT709_FULL, whole_planes_from=True)
    said = arguments(made)
    assert (said["-colorspace"], said["-color_primaries"], said["-color_range"]) == ("bt470bg", "bt470bg", "tv")
    assert said["-color_trc"] == "smpte170m", "BT.601 has one curve under two names"
    shown = graph(made, "0:V:0", None, None)
    assert "matrixin=709:matrix=470bg:rangein=full:range=limited" in shown
    kept = graph(replace(made, fields=Fields.KEEP), "0:V:0", None, None)
    assert "in_color_matrix=bt709:in_range=full:out_color_matrix=bt601:out_range=limited" in kept
    as_it_is = graph(replace(made, colour_from=None), "0:V:0", None, None)
    assert "matrixin=470bg:matrix=470bg:rangein=limited:range=limited" in as_it_is


@pytest.mark.parametrize(
    ("change", "step"),
    [
        ({"fields": Fields.DOUBLE}, "bwdif=mode=send_field:parity=tff:deint=all"),
        ({"fields": Fields.JOIN, "deinterlacer": "yadif"}, "yadif=mode=send_frame:parity=tff:deint=all"),
        ({"fields": Fields.JOIN, "deinterlacer": "w3fdif", "top_field_first": False}, "w3fdif=mode=frame:parity=bff"),
        ({"fields": Fields.RESTORE, "film_in_fields": True}, "fieldmatch=order=tff:combmatch=full"),
        ({"crop": Borders(top=10, bottom=20, left=2, right=4)}, "crop=iw-6:ih-30:2:10"),
    ],
)
def test_fields_and_crop_in_the_graph(change: dict[str, object], step: str) -> None:
    shown = graph(replace(BASE, **change), "0:V:0", None, None)  # type: ignore[arg-type]
    assert step in shown
    assert shown.index(step) < shown.index("scale="), "before the picture is scaled"


def test_film_whose_fields_are_only_flagged_is_left_to_the_frame_rate() -> None:
    shown = graph(replace(BASE, fields=Fields.RESTORE), "0:V:0", None, None)
    assert shown.startswith("[0:V:0]fps=25/1")


SOUND = AudioSettings(
    action=Action.ENCODE, track=0, codec="opus", channels=6, sample_rate=48000, source_channels=6, bitrate_bps=256_000
)


def test_each_track_is_said_by_its_place() -> None:
    said = audio_arguments(SOUND, Placing(place=1, container="mp4"))
    assert said[:6] == ["-c:a:1", "libopus", "-b:a:1", "256000", "-ar:a:1", "48000"]
    assert said[said.index("-mapping_family:a:1") + 1] == "1"
    assert "-filter:a:1" in said
    copied = Placing(place=2, container="mp4", filtered=False)
    assert audio_arguments(replace(SOUND, action=Action.COPY), copied) == ["-c:a:2", "copy"]


def test_lossless_sound_has_no_rate_and_gain_is_kept_from_clipping() -> None:
    flac = audio_arguments(
        replace(SOUND, codec="flac", bitrate_bps=None, gain_db=4.0), Placing(place=0, container="mp4")
    )
    assert "-b:a:0" not in flac
    heard = flac[flac.index("-filter:a:0") + 1]
    assert heard.index("volume=4.0dB") < heard.index("alimiter")
    quieter = audio_arguments(replace(SOUND, gain_db=-4.0), Placing(place=0, container="mp4"))
    assert "alimiter" not in quieter[quieter.index("-filter:a:0") + 1]


def test_two_passes_are_one_way_that_never_goes_back() -> None:
    fractions = []
    for at_pass in (1, 2):
        reader = ProgressReader(10.0, WorkClock(), 0.0, at_pass)
        for seconds in (2, 6, 10):
            for line in (f"out_time_us={seconds * 1_000_000}", "total_size=1"):
                reader.line(line)
            step = reader.line("progress=continue")
            assert step is not None
            fractions.append(step.fraction)
    assert fractions == sorted(fractions) and fractions[2] < 0.5
    assert fractions[-1] == pytest.approx(1.0)
