"""Seconds of a file before it is made are those of the file, and the source's beside them are the same pictures."""

from __future__ import annotations

import re
import shutil
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.instruments.authored import SAMPLE_RATE, Pictures, author, clicks, write_sound
from tests.instruments.discs import PAL, Chain, Vob, author_dvd
from tests.instruments.engine import output_of
from tests.instruments.kept import once
from tests.instruments.light import LUMA_709, apart, expected, shown, write_chart
from tests.instruments.looked import looked_over
from tests.instruments.readback import hear, lit, see
from tests.instruments.sources import AAC, BY_NAME, H264
from tests.thorough import thorough

from rheon.core.analysis.joining import joined_title
from rheon.core.delivery import Order, convert
from rheon.core.encoding import ExcerptRequest, Grown, Hooks, excerpt_stretch, make_excerpt, make_source_excerpt
from rheon.core.encoding.along import AHEAD_S, PACE_S, pace
from rheon.core.engine import probe
from rheon.core.errors import EngineError, Stopped
from rheon.core.media import Source, Title
from rheon.core.media.joining import PartWanted
from rheon.core.planning import Plan, PlanRequest, plan, played_sounds, read_pins, switched_subtitles
from rheon.core.sources import read_source
from rheon.demo.models import device


def planned(title: Title, device_id: str, **pins: str) -> Plan:
    named = {key.replace("_", ".", 1): value for key, value in pins.items()}
    return plan(PlanRequest(title=title, devices=(device(device_id),), name="made", pins=read_pins(named)))


def looked_at(source: Title, made: Plan, folder: Path, from_s: float, **switched: int) -> tuple[Path, Path]:
    """The seconds as they will be, and as they are on the source."""
    assert made.settings
    request = ExcerptRequest(title=source, settings=made.settings, from_s=from_s, **switched)
    paths = []
    for name, make in (("made", make_excerpt), ("source", make_source_excerpt)):
        work = folder / f"{name}-work"
        work.mkdir()
        make(request, folder / f"{name}.mp4", work)
        paths.append(folder / f"{name}.mp4")
    return paths[0], paths[1]


def likeness(one: Path, from_s: float, other: Path) -> float:
    """The mean SSIM of all pictures of ``other`` with those of ``one`` from a moment on."""
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-ss", f"{max(0.0, from_s - 0.002):.3f}", "-i", str(one)]
    even = "settb=1/25,setpts=N"  # picture by picture, whatever their rounded times
    graph = f"[0:V:0]{even}[a];[1:V:0]{even}[b];[a][b]ssim=shortest=1:stats_file=-"
    said = output_of([*argv, "-i", str(other), "-filter_complex", graph, "-f", "null", "-"]).decode()
    found = [float(all_planes) for all_planes in re.findall(r"All:([\d.]+)", said)]
    assert len(found) > 40
    return sum(found) / len(found)


def beside_black(path: Path) -> list[bool]:
    """Of each picture whether its outermost columns are black and those within are not."""
    argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(path), "-fps_mode", "passthrough"]
    argv += ["-vf", "scale=60:8:flags=area,format=gray", "-f", "rawvideo", "pipe:1"]
    seen = np.frombuffer(output_of(argv), np.uint8).reshape(-1, 8, 60).mean(axis=1)
    return [bool(max(one[:4].max(), one[-4:].max()) < 24 < one[16:44].mean()) for one in seen]


def apart_below(one: Path, other: Path) -> list[int]:
    """The pictures, by their place, whose lowest fifth is not the same in both files."""
    seen = []
    for path in (one, other):
        argv = ["ffmpeg", "-v", "error", "-nostdin", "-i", str(path), "-fps_mode", "passthrough"]
        argv += ["-vf", "crop=iw:ih/5:0:ih*4/5,scale=64:16:flags=area,format=gray", "-f", "rawvideo", "pipe:1"]
        seen.append(np.frombuffer(output_of(argv), np.uint8).reshape(-1, 16 * 64).astype(float))
    assert seen[0].shape == seen[1].shape
    return [int(n) for n in np.flatnonzero(np.abs(seen[0] - seen[1]).max(axis=1) > 20)]


@pytest.mark.parametrize(
    ("name", "device_id", "pins"),
    [
        thorough("film.mkv", "curlew-2", {}),
        ("program.mpg", "petrel-24", {"file_container": "avi"}),  # nothing of which a browser plays
        thorough("transport.ts", "wren-6", {"picture_size": "180"}),
    ],
)
def test_seconds_of_a_file_are_those_that_will_be_in_it(
    name: str, device_id: str, pins: dict[str, str], sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = read_source(sources(name)).titles[0]
    title = looked_over(title)
    made = planned(title, device_id, **pins)
    seconds, beside = looked_at(title, made, tmp_path, 3.0)
    (tmp_path / "file").mkdir()
    order = Order(title=title, plan=made, devices=[device(device_id)], folder=tmp_path / "file", token="whole")
    whole = convert(order).path
    first = see(seconds).numbers[0]
    at_s = next(t for n, t in zip(see(whole).numbers, see(whole).times, strict=True) if n == first)
    assert likeness(whole, at_s, seconds) >= 0.98
    ours, theirs = probe(str(seconds)).video, probe(str(whole)).video
    assert ours and theirs
    assert (ours.width, ours.height, ours.display_aspect) == (theirs.width, theirs.height, theirs.display_aspect)
    # the same pictures at the same times, or the two would not play in step
    assert see(seconds).numbers == see(beside).numbers
    assert see(seconds).times == pytest.approx(see(beside).times, abs=0.002)
    rate = BY_NAME[name].rate
    sound = hear(seconds, first_s=first / float(rate) - see(seconds).times[0])
    assert len(sound.clicks) >= 12 and max(map(abs, sound.offsets)) <= 0.025


def test_seconds_play_as_far_as_they_are_made_and_end_when_nobody_wants_them(
    sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = looked_over(read_source(sources("film.mkv")).titles[0])
    made = planned(title, "curlew-2", picture_codec="h264")
    assert made.settings
    request = ExcerptRequest(title=title, settings=made.settings, from_s=3.0)
    early, whole = tmp_path / "early.mp4", tmp_path / "whole.mp4"
    told: list[Grown] = []

    def grown(so_far: Grown) -> None:
        told.append(so_far)
        if so_far.written_s > 2 and not early.exists():
            shutil.copy(so_far.path, early)

    for name in ("one", "other"):
        (tmp_path / name).mkdir()
    make_excerpt(request, whole, tmp_path / "one", on_grown=grown)
    written = [one.written_s for one in told]
    assert written == sorted(written) and written[-1] == pytest.approx(told[-1].of_s, abs=0.2)
    shown, all_shown = see(early), see(whole)
    count = len(shown.numbers)
    assert count > 12 and shown.numbers == all_shown.numbers[:count]
    late_s = shown.times[0] - all_shown.times[0]
    assert [at_s - late_s for at_s in shown.times] == pytest.approx(all_shown.times[:count], abs=0.002)
    began = len(told)
    with pytest.raises(Stopped):
        hooks = Hooks(should_stop=lambda: len(told) > began)
        make_excerpt(request, tmp_path / "never.mp4", tmp_path / "other", hooks, grown)
    assert not (tmp_path / "never.mp4").exists() and len(told) > began


@given(st.floats(0.3, 6), st.floats(0, 3), st.floats(1, 10))
def test_what_plays_through_never_waits_for_what_is_made_as_quickly_as_before(
    rate: float, late_s: float, of_s: float
) -> None:
    def written_s(after_s: float) -> float:
        return min(of_s, max(0.0, rate * (after_s - late_s)))

    moments = [late_s + n / 20 for n in range(1, 1000)]
    reports = [(at_s, written_s(at_s)) for at_s in moments]
    begins_s = next(
        at_s
        for count, (at_s, so_far_s) in enumerate(reports, 1)
        if Grown(path=Path(), written_s=so_far_s, of_s=of_s, rate=pace(reports[:count])).plays_through
    )
    assert all(written_s(begins_s + played) >= played - 0.001 for played in np.arange(0.0, of_s, 0.1))
    # nor does anybody wait for what would have been enough
    assert rate < 1.01 or begins_s - late_s < max(PACE_S, AHEAD_S / rate) + 0.11


def test_interlaced_lines_and_a_copied_picture_are_shown_as_players_do(film_disc: Source, tmp_path: Path) -> None:
    title = film_disc.titles[1]
    copied = planned(title, "goosander-disc", file_container="matroska")
    seconds, beside = looked_at(title, copied, tmp_path, 4.0)
    for path in (seconds, beside):
        video = probe(str(path)).video
        assert video and (video.codec, video.sample_aspect) == ("h264", Fraction(1))
    assert likeness(beside, 0.0, seconds) > 0.97


def test_what_is_switched_on_is_seen_and_heard_as_a_player_does(tmp_path: Path) -> None:
    pictures = Pictures(count=300, rate=Fraction(25))
    said = "1\n00:00:04,000 --> 00:00:05,000\nTHE TIDE\nWAITS\n\n2\n00:00:08,000 --> 00:00:09,000\nFOR\nNOBODY\n"
    (tmp_path / "lines.srt").write_text(said)
    sounds = [np.zeros((12 * SAMPLE_RATE, 2), np.int16), clicks(12.0)]
    paths = [write_sound(samples, tmp_path / f"{n}.wav") for n, samples in enumerate(sounds)]
    lines = ("-i", str(tmp_path / "lines.srt"))
    coding = (*H264, *AAC, "-map", "3:s", "-c:s", "srt")
    title = read_source(author(tmp_path / "a.mkv", pictures, coding, sounds=paths, inputs=lines)).titles[0]
    tracks = {"sound_track": "0,1", "subtitles_track": "0", "subtitles_form": "track"}
    made = planned(title, "curlew-9", **tracks, picture_codec="h264")
    assert made.settings
    assert len(played_sounds(title, made.settings)) == 2 and len(switched_subtitles(title, made.settings)) == 1
    begins, switched = tmp_path / "begins", tmp_path / "switched"
    for folder in (begins, switched):
        folder.mkdir()
    plain, _ = looked_at(title, made, begins, 3.0)
    assert not hear(plain, first_s=3.0).clicks
    other, beside = looked_at(title, made, switched, 3.0, sound=1, subtitle=0)
    shown = apart_below(plain, other)
    assert len(shown) == 50 and set(shown) <= {*range(25, 51), *range(125, 151)}
    assert (
        len(hear(other, first_s=3.0).clicks) >= 14 and see(other).numbers == see(plain).numbers == see(beside).numbers
    )
    with pytest.raises(EngineError, match="no such track"):
        looked_at(title, made, tmp_path, 3.0, subtitle=1)
    # pictures of lines over a picture that is copied
    vob = Vob(pictures=Pictures(count=200, rate=PAL, size=(720, 576)), lines=((2, 3),))
    disc = read_source(author_dvd([vob], [Chain(parts=((0, 0, 0),))], tmp_path / "DISC")).titles[0]
    copied = planned(disc, "faithful-copy")
    (tmp_path / "copied").mkdir()
    over, _ = looked_at(disc, copied, tmp_path / "copied", 1.0, subtitle=0)
    assert lit(over) == [pytest.approx((1, 2), abs=0.09)]
    # what they were drawn on is cut away: they are there all the same
    for name in ("cut", "without"):
        (tmp_path / name).mkdir()
    tracks = {"subtitles_track": "0", "subtitles_form": "track", "file_container": "matroska", "picture_codec": "h264"}
    cut = planned(disc, "cormorant-box", **tracks, picture_crop="0,160,0,0")
    over, _ = looked_at(disc, cut, tmp_path / "cut", 1.0, subtitle=0)
    shown = apart_below(looked_at(disc, cut, tmp_path / "without", 1.0)[0], over)
    assert len(shown) == pytest.approx(25, abs=2) and set(shown) <= {*range(23, 53)}


def test_parts_of_a_join_play_each_in_its_own_way_with_the_source_beside_them(tmp_path: Path) -> None:
    wide = author(tmp_path / "wide.mkv", Pictures(count=150, rate=Fraction(25), size=(480, 208)), H264)
    boxed = Pictures(count=150, rate=Fraction(25), size=(320, 240), first=150)
    tall = author(tmp_path / "tall.mkv", boxed, H264, filters="pad=320:300:0:30:black")
    parts = [looked_over(read_source(path).titles[0]) for path in (wide, tall)]
    title = joined_title([PartWanted(title=one, name=f"Part {n}") for n, one in enumerate(parts, 1)], 1, "join")
    made = planned(title, "curlew-9", picture_codec="h264")
    assert made.settings and made.settings.video and made.settings.video.parts
    for from_s, seam, last in ((1.0, 125, 250), (8.0, 0, 100)):
        (folder := tmp_path / str(seam)).mkdir()
        both = looked_at(title, made, folder, from_s)
        assert see(both[0]).times == pytest.approx(see(both[1]).times, abs=0.002)
        for path in both:
            assert see(path).numbers[:seam] == tuple(range(25, 25 + seam))
            # the tall one has black beside it in the frame of the wide one
            assert beside_black(path) == [n >= seam for n in range(last)]


def test_light_beyond_white_is_shown_on_both_sides_as_a_screen_shows_it(tmp_path: Path) -> None:
    def made(path: Path) -> Path:
        write_chart(path, "smpte2084")
        return path

    title = read_source(once("smpte2084.mkv", made)).titles[0]
    for number, device_id in enumerate(("curlew-9", "albatross-65")):
        (tmp_path / str(number)).mkdir()
        wanted = planned(title, device_id, picture_codec="hevc" if number else "h264", picture_size="720")
        for path in looked_at(title, wanted, tmp_path / str(number), 0.0):
            assert apart(shown(path, LUMA_709, at=3), expected()).mean() < 3


def test_an_excerpt_begins_inside_the_title_ends_with_it_and_stops_when_told(
    sources: Callable[[str], Path], tmp_path: Path
) -> None:
    title = read_source(sources("film.mkv")).titles[0]
    made = planned(title, "curlew-2")
    assert made.settings
    late = excerpt_stretch(title, title.duration_s + 5)
    assert title.duration_s - 1.1 < late.from_s < late.until_s == title.duration_s
    request = ExcerptRequest(title=title, settings=made.settings, from_s=2.0)
    with pytest.raises(Stopped):
        make_excerpt(request, tmp_path / "never.mp4", tmp_path, Hooks(should_stop=lambda: True))
    assert not (tmp_path / "never.mp4").exists()
    sound_only = planned(title, "sound-as-aac")
    assert sound_only.settings
    request = ExcerptRequest(title=title, settings=sound_only.settings, from_s=2.0)
    with pytest.raises(EngineError, match="no picture"):
        make_source_excerpt(request, tmp_path / "none.mp4", tmp_path)
    make_excerpt(request, tmp_path / "heard.mp4", tmp_path)
    heard = probe(str(tmp_path / "heard.mp4"))
    assert heard.video is None and heard.duration_s == pytest.approx(10, abs=0.1)
