"""Light beyond white: kept where a device shows it, drawn into the standard range where it does not."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from tests.instruments.engine import output_of
from tests.instruments.kept import once
from tests.instruments.light import (
    GREYS_NITS,
    LUMA_601,
    LUMA_709,
    XYZ_601,
    XYZ_709,
    Light,
    apart,
    expected,
    shown,
    write_chart,
)
from tests.thorough import thorough

from rheon.core.analysis import frame_jpeg
from rheon.core.commands.making.filters import graph
from rheon.core.delivery import Order, convert
from rheon.core.devices import DeviceProfile, Verdict, judge_title
from rheon.core.engine import probe
from rheon.core.media import Action, DynamicRange, FileData, Title
from rheon.core.planning import Plan, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

TRANSFERS = {"smpte2084": DynamicRange.HDR10, "arib-std-b67": DynamicRange.HLG}


def chart_of(transfer: str) -> Title:
    def made(path: Path) -> Path:
        write_chart(path, transfer)
        return path

    return read_source(once(f"{transfer}.mkv", made)).titles[0]


def planned(title: Title, profile: DeviceProfile, **pins: str) -> Plan:
    named = {key.replace("_", ".", 1): value for key, value in pins.items()}
    return plan(PlanRequest(title=title, devices=(profile,), name="made", pins=read_pins(named)))


def delivered(title: Title, made: Plan, profile: DeviceProfile, folder: Path) -> Path:
    return convert(Order(title=title, plan=made, devices=[profile], folder=folder, token="made")).path


@pytest.mark.parametrize("transfer", TRANSFERS)
@pytest.mark.parametrize(
    ("size", "matrix", "read"),
    [thorough("720", "bt709", (LUMA_709, XYZ_709)), ("480", "smpte170m", (LUMA_601, XYZ_601))],
)
def test_what_a_device_does_not_show_is_drawn_in_with_its_hues_and_paper_stays_white(
    transfer: str, size: str, matrix: str, read: tuple[tuple[float, float, float], Light], tmp_path: Path
) -> None:
    title, phone = chart_of(transfer), device("curlew-2")
    assert title.video and title.video.dynamic_range is TRANSFERS[transfer]
    made = planned(title, phone, picture_size=size, picture_rate="quality:8")
    file = delivered(title, made, phone, tmp_path)
    video = probe(str(file)).video
    assert video and video.colour and (video.bit_depth, video.colour.matrix) == (8, matrix)
    assert video.dynamic_range is DynamicRange.STANDARD
    seen, wanted = shown(file, read[0]), expected()
    differences = apart(seen, wanted, read[1])
    assert differences.mean() < 1.5 and differences.max() < 6
    greys = seen[: len(GREYS_NITS)]
    assert np.ptp(greys, axis=1).max() < 0.012
    assert np.abs(greys - wanted[: len(GREYS_NITS)]).max() < 0.012
    # 219 steps: paper white stands at 196 and 5 cd/m² at 47, where a standard display gives off as much
    assert [round(219 * greys[GREYS_NITS.index(nits), 1]) for nits in (203.0, 5.0)] == pytest.approx([196, 47], abs=2)


def test_a_device_that_shows_it_keeps_it(tmp_path: Path) -> None:
    title, tv = chart_of("smpte2084"), device("albatross-65")
    assert judge_title(title, tv).verdict is Verdict.PLAYS
    made = planned(title, tv, picture_size="480", picture_rate="quality:14")
    file = delivered(title, made, tv, tmp_path)
    video = probe(str(file)).video
    assert video and video.colour and video.bit_depth == 10
    assert (video.colour.matrix, video.colour.primaries, video.colour.transfer) == ("bt2020nc", "bt2020", "smpte2084")


MASTERED = ("G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,50)", "997,403")
DISPLAY = {
    "green_x": 13250, "green_y": 34500, "blue_x": 7500, "blue_y": 3000, "red_x": 34000, "red_y": 16000,
    "white_point_x": 15635, "white_point_y": 16450, "max_luminance": 10000000, "min_luminance": 50,
}  # fmt: skip


def mastered() -> Title:
    """A chart of which the stream itself says how it was mastered, and the container nothing."""

    def made(path: Path) -> Path:
        told = f"log-level=none:master-display={MASTERED[0]}:max-cll={MASTERED[1]}"
        of = ("-colorspace", "bt2020nc", "-color_primaries", "bt2020", "-color_trc", "smpte2084")
        plain = chart_of("smpte2084").data
        assert isinstance(plain, FileData)
        argv = ["ffmpeg", "-v", "error", "-i", plain.path, "-c:v", "libx265", "-preset", "ultrafast", *of]
        output_of([*argv, "-x265-params", told, str(path)])
        return path

    return read_source(once("mastered.mkv", made)).titles[0]


def told_light(file: Path) -> dict[str, float]:
    """What the first picture of a file says of its light, each figure in the steps in which it is written."""
    argv = ["ffprobe", "-v", "error", "-select_streams", "v", "-read_intervals", "%+#1", "-show_frames", "-of", "json"]
    (frame,) = json.loads(output_of([*argv, str(file)]))["frames"]
    said: dict[str, float] = {}
    for side in frame["side_data_list"]:
        for key, value in side.items():
            if key in DISPLAY:
                over, under = map(int, value.split("/"))
                said[key] = over / under * (10_000 if "luminance" in key else 50_000)
            elif key.startswith("max_"):
                said[key] = value
    return said


@pytest.mark.parametrize("codec", ["hevc", thorough("av1")])
def test_how_light_was_mastered_goes_along_where_it_is_kept_and_counts_where_it_is_drawn_in(
    codec: str, tmp_path: Path
) -> None:
    title, tv = mastered(), device("albatross-65")
    assert title.video and title.video.colour and title.video.colour.peak_nits == 997
    assert title.video and title.video.colour and title.video.colour.peak_nits == 997
    of_av1 = {"codec": "av1", "profiles": ("main",), "max_level": None}
    bright = [entry.model_copy(update=of_av1) for entry in tv.video if entry.dynamic_ranges]
    tv = tv.model_copy(update={"video": (*bright, *tv.video)})
    made = planned(title, tv, picture_size="480", picture_codec=codec, picture_depth="10")
    assert made.settings and made.settings.video and made.settings.video.colour
    assert made.settings.video.colour.dynamic_range is DynamicRange.HDR10
    said = told_light(delivered(title, made, tv, tmp_path))
    assert said == pytest.approx({**DISPLAY, "max_content": 997, "max_average": 403}, rel=1e-3, abs=2)
    drawn_in = planned(title, device("curlew-2"))
    assert drawn_in.settings and drawn_in.settings.video and drawn_in.settings.video.colour
    assert drawn_in.settings.video.colour.mastering is None


def test_a_stream_is_not_copied_to_where_it_would_look_pale() -> None:
    title, tv = chart_of("smpte2084"), device("albatross-65")
    dull = tv.model_copy(update={"video": tuple(e.model_copy(update={"dynamic_ranges": ()}) for e in tv.video)})
    judged = judge_title(title, dull)
    assert judged.verdict is Verdict.CONVERT
    assert judge_title(title, tv).verdict is not Verdict.CONVERT
    made = planned(title, dull)
    assert made.settings and made.settings.video and made.settings.video.action is Action.ENCODE
    assert made.settings.video.colour and made.settings.video.colour.dynamic_range is DynamicRange.STANDARD
    (told,) = [one.reason for one in made.decisions if one.key == "picture.colour"]
    assert told.code == "colour_tone_mapped" and told.values["range"] == "hdr10"
    # ten bits by hand taken away: the light beyond white goes too
    shallow = planned(title, tv, picture_depth="8", picture_size="480")
    assert [one.reason.code for one in shallow.decisions if one.key == "picture.colour"] == ["colour_tone_mapped_depth"]


def test_a_look_at_the_source_is_what_a_screen_shows(tmp_path: Path) -> None:
    title = chart_of("smpte2084")
    (tmp_path / "frame.jpg").write_bytes(frame_jpeg(title, 0.5, 720))
    assert shown_mean(tmp_path / "frame.jpg") < 3


def shown_mean(path: Path) -> float:
    """A JPEG is read by BT.601 in full range."""
    picture = np.asarray(Image.open(path).convert("RGB"), float) / 255
    rows, cols = (np.arange(6) * 120 + 60, np.arange(8) * 160 + 80)
    seen = np.array([picture[y - 20 : y + 20, x - 20 : x + 20].mean(axis=(0, 1)) for y in rows for x in cols])
    return float(apart(seen, expected()).mean())


@pytest.mark.parametrize(("told", "white"), [(None, 1000), (600, 600), (10, 250), (9000, 4000)])
def test_the_brightest_light_is_what_the_pictures_are_said_to_hold(told: int | None, white: int) -> None:
    title, phone = chart_of("smpte2084"), device("curlew-2")
    assert title.video and title.video.colour
    bright = replace(title, video=replace(title.video, colour=replace(title.video.colour, peak_nits=told)))
    made = planned(bright, phone)
    assert made.settings and made.settings.video and made.settings.video.colour_from
    assert f"peak={white / 203:.4f}," in graph(made.settings.video, "0:v:0", None, None)
