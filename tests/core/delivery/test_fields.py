"""Movement in what comes out: no combs, and each picture at the time of what it shows, whatever the fields were."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import pytest
from tests.instruments.kept import once
from tests.instruments.looked import looked_over
from tests.instruments.movement import (
    FILM,
    NTSC,
    PAL,
    Taken,
    author,
    author_flagged,
    by_turns,
    film,
    seen_in,
    video,
    whole,
)
from tests.thorough import thorough

from rheon.core.delivery import Order, convert
from rheon.core.devices import DeviceProfile, VideoEntry
from rheon.core.media import Fields, Scan, Title, VideoSettings
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
from rheon.demo.models import device

EVEN_S, CLOCK_MS = 0.004, 1.01
SOURCES = {
    "pal": Taken(rate=PAL, lines=576, seconds=6),
    "pal-bottom": Taken(rate=PAL, lines=576, seconds=6, top_first=False),
    "ntsc": Taken(rate=NTSC, lines=480, seconds=6),
    "film": Taken(rate=NTSC, lines=480, seconds=6, kind=film),
    "mixed": Taken(rate=NTSC, lines=480, seconds=16, kind=by_turns(4, film, video)),
    "mixed-pal": Taken(rate=PAL, lines=576, seconds=12.8, kind=by_turns(3.2, whole, video)),
}


@lru_cache(maxsize=8)
def looked_at(name: str, *, told_top_first: bool | None = None) -> Title:
    told = "" if told_top_first is None else f"-told-{told_top_first}"
    path = once(
        f"moves-{name}-{SOURCES[name].seconds:g}{told}.mpg", lambda path: author(path, SOURCES[name], told_top_first)
    )
    title = read_source(path).titles[0]
    return looked_over(title)


def made_for(title: Title, target: DeviceProfile, folder: Path, **pins: str) -> tuple[VideoSettings, Path]:
    said = {"picture.rate": "quality:16"} | {f"picture.{key}": value for key, value in pins.items()}
    if target.video_entries("h264") == []:
        said.pop("picture.rate")
    wanted = PlanRequest(title=title, devices=(target,), name="F", balance=Balance.LEAN, pins=read_pins(said))
    made = plan(wanted)
    assert made.settings is not None and made.settings.video is not None
    done = convert(Order(title=title, plan=made, devices=(target,), folder=folder, token="t"))
    return made.settings.video, done.path


def with_video(name: str, **changes: object) -> DeviceProfile:
    """A device whose every entry for pictures has other bounds."""
    known = device(name)
    return known.model_copy(
        update={"video": tuple(VideoEntry.model_validate(entry.model_dump() | changes) for entry in known.video)}
    )


@pytest.mark.parametrize(
    ("source", "target", "fields", "rate"),
    [
        ("pal", "gannet-43", Fields.DOUBLE, Fraction(50)),
        thorough("pal-bottom", "gannet-43", Fields.DOUBLE, Fraction(50)),
        thorough("ntsc", "redshank-book-2", Fields.DOUBLE, 2 * NTSC),
        ("pal-bottom", "wren-6", Fields.JOIN, Fraction(25)),
        ("film", "wren-6", Fields.RESTORE, Fraction(24000, 1001)),
        thorough("film", "gannet-43", Fields.RESTORE, Fraction(24000, 1001)),
    ],
)
def test_movement_is_as_smooth_as_it_was_taken_and_never_combed(
    source: str, target: str, fields: Fields, rate: Fraction, tmp_path: Path
) -> None:
    video, path = made_for(looked_at(source), device(target), tmp_path)
    assert (video.fields, video.frame_rate) == (fields, rate)
    seen = seen_in(path)
    assert seen.combed == 0
    assert seen.judder < EVEN_S
    assert seen.uneven_ms(rate) < CLOCK_MS


def test_fields_are_kept_for_a_device_that_shows_them_and_no_more_frames(tmp_path: Path) -> None:
    title = looked_at("pal-bottom")
    old = with_video("gannet-43", max_frame_rate="30")
    for target, codec in ((old, "h264"), (device("petrel-24"), "mpeg2video"), (device("petrel-24"), "mpeg4")):
        folder = tmp_path / codec
        folder.mkdir()
        video, path = made_for(title, target, folder, codec=codec)
        assert (video.fields, video.frame_rate, video.height) == (Fields.KEEP, Fraction(25), 576)
        # a player shows each field at its time where the file tells it to, in the order that it tells
        seen = seen_in(path, as_fields=True)
        assert seen.combed == 0
        assert seen.judder < EVEN_S
        assert len(seen.times) > 1.8 * 25 * 6 * 0.8


def test_fields_are_joined_where_lines_would_be_lost_or_the_rate_by_hand_is_too_low(tmp_path: Path) -> None:
    title = looked_at("pal")
    old = with_video("gannet-43", max_frame_rate="30")
    for pins in ({"picture.size": "480"}, {"picture.rotation": "90"}, {"picture.rate": "average:60"}):
        made = plan(PlanRequest(title=title, devices=(old,), name="F", pins=read_pins(pins)))
        assert made.settings is not None and made.settings.video is not None
        assert made.settings.video.fields is Fields.JOIN


def test_a_shared_file_moves_as_the_largest_screen_shows_it_whoever_comes_first() -> None:
    title = looked_at("pal")
    tv, phone = device("gannet-43"), device("wren-6")
    old_tv, laptop = with_video("gannet-43", max_frame_rate="30"), with_video("redshank-book-2", max_frame_rate="30")
    for devices, fields in (((tv, phone), Fields.DOUBLE), ((old_tv, laptop), Fields.JOIN)):
        for order in (devices, devices[::-1]):
            made = plan(PlanRequest(title=title, devices=order, name="F", pins=read_pins({"picture.codec": "h264"})))
            assert made.settings is not None and made.settings.video is not None
            assert made.settings.video.fields is fields


def test_where_film_and_video_take_turns_both_move_evenly(tmp_path: Path) -> None:
    title = looked_at("mixed")
    assert title.video is not None and title.video.scan is Scan.MIXED
    video, path = made_for(title, device("wren-6"), tmp_path)
    assert (video.fields, video.variable_rate) == (Fields.MATCH, True)
    seen = seen_in(path)
    assert seen.combed == 0
    for turn, (rate, most) in enumerate([(FILM, 84), (NTSC, 105)] * 2):
        stretch = seen.between(4 * turn + 0.5, 4 * turn + 3.9)
        assert stretch.uneven_ms(rate) < CLOCK_MS
        assert stretch.judder < EVEN_S
        assert 0.7 * most < len(stretch.times) <= most


def test_film_that_only_flags_spread_moves_evenly_beside_video_too(tmp_path: Path) -> None:
    title = read_source(once("moves-flagged-4.mpg", lambda path: author_flagged(path, 4, 4))).titles[0]
    title = looked_over(title)
    assert title.video is not None and title.video.scan is Scan.MIXED
    _, path = made_for(title, device("wren-6"), tmp_path)
    seen = seen_in(path)
    for turn, rate in enumerate([FILM, NTSC] * 2):
        stretch = seen.between(4 * turn + 0.5, 4 * turn + 3.6)
        assert stretch.uneven_ms(rate) < CLOCK_MS
        assert stretch.judder < EVEN_S
        assert len(stretch.times) > 0.7 * 3.1 * rate


def test_without_times_of_their_own_no_picture_of_either_is_lost(tmp_path: Path) -> None:
    video, path = made_for(looked_at("mixed"), device("gannet-43"), tmp_path)
    assert (video.fields, video.variable_rate, video.frame_rate) == (Fields.MATCH, False, NTSC)
    seen = seen_in(path)
    assert seen.combed == 0
    assert seen.between(4.5, 7.9).judder < EVEN_S
    # one frame of film in five comes twice, and none is missing: never later than a frame
    film_s = seen.between(0.5, 3.9).late
    assert float(film_s.max() - film_s.min()) < 0.042


def test_whole_frames_among_video_stay_whole_in_countries_of_25(tmp_path: Path) -> None:
    title = looked_at("mixed-pal")
    assert title.video is not None and title.video.scan is Scan.MIXED
    video, path = made_for(title, device("wren-6"), tmp_path)
    assert (video.fields, video.variable_rate, video.frame_rate) == (Fields.MATCH, False, PAL)
    seen = seen_in(path)
    assert seen.combed == 0
    assert all(seen.between(3.2 * n + 0.3, 3.2 * n + 3.1).judder < EVEN_S for n in range(4))


def test_a_wrong_field_order_is_found_and_can_be_set_by_hand(tmp_path: Path) -> None:
    title = looked_at("pal-bottom", told_top_first=True)
    assert title.video is not None and not title.video.top_field_first
    _, path = made_for(title, device("gannet-43"), tmp_path)
    assert seen_in(path).judder < EVEN_S
    believed = replace(title, video=replace(title.video, top_field_first=True))
    for order, right in (("top", False), ("bottom", True)):
        folder = tmp_path / order
        folder.mkdir()
        video, path = made_for(believed, device("gannet-43"), folder, field_order=order)
        assert video.top_field_first is (order == "top")
        assert (seen_in(path).judder < EVEN_S) is right
