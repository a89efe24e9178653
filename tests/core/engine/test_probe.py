"""What ffprobe says, in all its variety, becomes values."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.engine import mastering
from rheon.core.engine.probe import read_probe
from rheon.core.errors import NotASource
from rheon.core.formats import is_text
from rheon.core.media import Chapter, Forced, Purpose, Scan

VIDEO: dict[str, Any] = {
    "codec_type": "video",
    "codec_name": "h264",
    "profile": "High",
    "level": 31,
    "width": 1280,
    "height": 720,
    "pix_fmt": "yuv420p",
    "avg_frame_rate": "30000/1001",
    "r_frame_rate": "60/1",
    "field_order": "progressive",
}
SOUND: dict[str, Any] = {
    "codec_type": "audio",
    "codec_name": "aac",
    "profile": "LC",
    "channels": 2,
    "sample_rate": "44100",
}


def probed(*streams: dict[str, Any], **form: Any) -> Any:
    return read_probe(
        {"streams": list(streams), "format": {"format_name": "mov,mp4,m4a,3gp,3g2,mj2", "size": "10", **form}}
    )


def test_a_usual_file_is_read_in_full() -> None:
    words = {
        "codec_type": "subtitle",
        "codec_name": "subrip",
        "tags": {"language": "por"},
        "disposition": {"forced": 1},
    }
    found = probed(VIDEO, SOUND, words, duration="61.5", tags={"title": "Kite day"})
    assert (found.container, found.duration_s, found.size_bytes, found.title) == ("mp4", 61.5, 10, "Kite day")
    video = found.video
    assert (video.profile, video.level, video.bit_depth, video.scan) == ("high", "3.1", 8, Scan.PROGRESSIVE)
    assert video.frame_rate == Fraction(30000, 1001)
    assert (found.audio[0].profile, found.audio[0].sample_rate) == ("lc", 44100)
    assert (found.subtitles[0].language, found.subtitles[0].forced, is_text(found.subtitles[0])) == (
        "pt",
        Forced.ALL,
        True,
    )


@pytest.mark.parametrize(
    ("change", "field", "value"),
    [
        ({"codec_name": "hevc", "level": 93, "profile": "Main 10"}, "level", "3.1"),
        ({"codec_name": "hevc", "level": 150}, "level", "5"),
        ({"level": 40}, "level", "4"),
        ({"level": 9}, "level", "1b"),
        ({"level": -99}, "level", None),
        ({"profile": "Constrained Baseline"}, "profile", "baseline"),
        ({"profile": "Odd One"}, "profile", "odd_one"),
        ({"pix_fmt": "yuv420p10le"}, "bit_depth", 10),
        ({"pix_fmt": "yuvj420p"}, "bit_depth", 8),
        ({"field_order": "tt"}, "scan", Scan.INTERLACED),
        ({"field_order": "bb"}, "top_field_first", False),
        ({"field_order": "unknown"}, "scan", Scan.UNKNOWN),
        ({"sample_aspect_ratio": "16:15"}, "sample_aspect", Fraction(16, 15)),
        ({"sample_aspect_ratio": "0:1"}, "sample_aspect", Fraction(1)),
        ({"avg_frame_rate": "0/0"}, "frame_rate", Fraction(60)),
        ({"avg_frame_rate": "0/0", "r_frame_rate": "0/0"}, "frame_rate", Fraction(25)),
        ({"side_data_list": [{"rotation": -90}]}, "rotation", 270),
        ({"bit_rate": "900000"}, "bitrate_bps", 900_000),
    ],
)
def test_each_oddity_has_its_value(change: dict[str, Any], field: str, value: object) -> None:
    assert getattr(probed({**VIDEO, **change}).video, field) == value


def test_a_turned_picture_is_seen_the_other_way_round() -> None:
    turned = probed({**VIDEO, "side_data_list": [{"rotation": 90}]}).video
    assert turned.display_aspect == Fraction(9, 16)


def test_attached_pictures_are_no_video_and_streams_without_channels_no_sound() -> None:
    cover = {**VIDEO, "codec_name": "mjpeg", "disposition": {"attached_pic": 1}}
    found = probed(cover, SOUND, {"codec_type": "audio", "codec_name": "aac", "channels": 0})
    assert found.video is None
    assert len(found.audio) == 1


def test_purposes_come_from_the_flags() -> None:
    found = probed(SOUND, {**SOUND, "disposition": {"comment": 1}}, {**SOUND, "disposition": {"visual_impaired": 1}})
    assert [track.purpose for track in found.audio] == [Purpose.UNKNOWN, Purpose.COMMENTARY, Purpose.DESCRIPTION]


def test_a_length_is_taken_from_a_stream_where_the_file_has_none_and_chapters_keep_their_names() -> None:
    said = {
        "streams": [{**VIDEO, "duration": "12.5"}],
        "format": {"format_name": "matroska,webm", "duration": "N/A"},
        "chapters": [{"start_time": "0.0"}, {"start_time": "6.25", "tags": {"title": "The ferry"}}],
    }
    found = read_probe(said)
    assert (found.container, found.duration_s) == ("matroska", 12.5)
    assert found.chapters == (Chapter(number=1, start_s=0.0), Chapter(number=2, start_s=6.25, name="The ferry"))


@pytest.mark.parametrize("said", [{}, {"streams": []}, {"streams": [{"codec_type": "data"}]}])
def test_files_with_neither_picture_nor_sound_are_refused(said: dict[str, Any]) -> None:
    with pytest.raises(NotASource):
        read_probe(said)


ODD = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats()
    | st.text(max_size=12)
    | st.sampled_from(["1/0", "34000/50000", "10000000/10000"]),
    lambda inner: st.lists(inner, max_size=2),
    max_leaves=3,
)
TOLD = st.sampled_from([*mastering.CHROMATICITIES, *mastering.LUMINANCES, "max_content", "max_average"])


@given(st.lists(st.dictionaries(TOLD, ODD), max_size=3))
def test_whatever_a_picture_says_of_its_light_is_whole_and_possible_or_left_out(told: list[dict[str, object]]) -> None:
    found = mastering.mastering_of(told)
    if found and found.display:
        assert len(found.display) == 10 and all(0 <= one <= 50_000 for one in found.display[:8])
        assert 0 <= found.display[9] < found.display[8] <= 10_000 * 10_000
    if found and found.content:
        assert 0 < found.content[0] <= 10_000 and 0 <= found.content[1] <= 10_000
