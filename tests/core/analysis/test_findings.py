"""What pictures, sound and words say of themselves, against material whose truth is known."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from tests.instruments.engine import output_of
from tests.instruments.looked import survey_of

from rheon.core.analysis import SubtitlesFound, Survey, fingerprint, survey_title, with_findings
from rheon.core.analysis.borders import find_borders
from rheon.core.analysis.combing import comb_limit
from rheon.core.analysis.scan_type import find_scan_type, votes_of
from rheon.core.analysis.sounds import lossless_rates
from rheon.core.analysis.subtitle_lines import LineCount, count_graphics, count_subpictures, subpicture_commands
from rheon.core.commands.making.filters import COMBED_PIXELS
from rheon.core.media import COMB_LIMIT, Borders, Forced, Scan, Source, SubtitleStream, Title, VideoStream
from rheon.core.sources import read_source
from rheon.demo import scenario

LINES, COLUMNS = 96, 128
Pictures = NDArray[np.uint8]
GRAINS = st.sampled_from([1.0, 4.0, 7.0, 16.0])
"""Standard deviations, from a clean source to coarse film."""
FLAGGED = VideoStream(codec="mpeg2video", width=COLUMNS, height=LINES, frame_rate=Fraction(30000, 1001))


def textured(seed: int, width: int = 400) -> NDArray[np.float64]:
    """A picture with detail, smooth enough that neighbouring lines are alike."""
    rand = np.random.default_rng(seed)
    rough = rand.uniform(40, 220, (LINES // 8 + 2, width // 8 + 2))
    across = np.linspace(0, rough.shape[1] - 1.01, width)
    down = np.linspace(0, rough.shape[0] - 1.01, LINES)
    left, top = across.astype(int), down.astype(int)
    fx, fy = across - left, (down - top)[:, None]
    upper = rough[top][:, left] * (1 - fx) + rough[top][:, left + 1] * fx
    lower = rough[top + 1][:, left] * (1 - fx) + rough[top + 1][:, left + 1] * fx
    return upper * (1 - fy) + lower * fy


def at_moment(scene: NDArray[np.float64], moment: float) -> NDArray[np.float64]:
    return scene[:, round(moment * 5) : round(moment * 5) + COLUMNS]


def woven(scene: NDArray[np.float64], moments: list[tuple[float, float]], grain: float = 1.0) -> Pictures:
    """Pictures of upper and lower lines, each from its own moment, with grain that no two have in common."""
    made = []
    for upper, lower in moments:
        picture = at_moment(scene, upper).copy()
        picture[1::2] = at_moment(scene, lower)[1::2]
        made.append(picture)
    noise = np.random.default_rng(3).normal(0, grain, (len(made), LINES, COLUMNS))
    return np.clip(np.array(made) + noise, 16, 235).astype(np.uint8)


def film_frames(start: int, count: int, top_first: bool = True) -> list[tuple[float, float]]:
    """Film frames as 2:3 pulldown spreads them over the fields of pictures, from any place of the cycle."""
    fields: list[float] = []
    for frame in range(count):
        fields += [frame] * (2 if frame % 2 == 0 else 3)
    pairs = list(zip(fields[not top_first :: 2], fields[top_first::2], strict=False))
    return pairs[start : start + 12]


@given(st.integers(0, 4), st.booleans(), st.integers(0, 1000), GRAINS)
@settings(max_examples=40)
def test_film_spread_over_fields_is_known_by_its_repeated_fields(
    start: int, top_first: bool, seed: int, grain: float
) -> None:
    stretches = [woven(textured(seed + n), film_frames(start, 20, top_first), grain) for n in range(4)]
    found = find_scan_type(votes_of(stretches, noise=grain), replace(FLAGGED, scan=Scan.INTERLACED))
    assert (found.scan, found.in_fields, found.top_field_first) == (Scan.TELECINED, True, top_first)
    assert found.sure > 0.7
    assert found.comb_limit == COMB_LIMIT or grain > 4


@pytest.mark.parametrize("grain", [1.0, 16.0, 24.0])
def test_grain_is_not_taken_for_combing_and_two_moments_are(grain: float) -> None:
    whole = woven(textured(5), [(n, n) for n in range(12)], grain)
    limit = comb_limit(list(whole))
    assert deinterlaced(whole, limit) <= 2
    assert deinterlaced(whole, COMB_LIMIT) == (12 if grain > 10 else 0)
    assert deinterlaced(woven(textured(5), [(n, n + 6) for n in range(12)], grain), limit, match="pc") >= 10


def deinterlaced(pictures: Pictures, limit: int, match: str = "pcn_ub") -> int:
    """How many pictures the engine's field matching holds to be combed, so that they do not stay as they are."""
    chroma = np.full((len(pictures), LINES // 2, COLUMNS), 128, np.uint8)
    stored = np.concatenate([pictures, chroma], axis=1)
    form = ["-f", "rawvideo", "-pix_fmt", "yuv420p"]
    matched = f"fieldmatch=order=tff:mode={match}:combmatch=full:combpel={COMBED_PIXELS}:cthresh={limit}"
    argv = ["ffmpeg", "-v", "error", *form, "-s", f"{COLUMNS}x{LINES}", "-i", "pipe:0"]
    argv += ["-vf", f"setfield=tff,{matched},bwdif=mode=send_frame:deint=interlaced", *form, "pipe:1"]
    made = np.frombuffer(output_of(argv, feed=lambda: iter([stored.tobytes()])), np.uint8).reshape(stored.shape)
    return sum(not np.array_equal(*pair) for pair in zip(stored, made, strict=True))


@given(st.booleans(), st.integers(0, 1000), GRAINS)
@settings(max_examples=40)
def test_pairs_of_fields_and_their_order_are_known_by_motion(top_first: bool, seed: int, grain: float) -> None:
    moments = [(n, n + 0.5) if top_first else (n + 0.5, n) for n in map(float, range(12))]
    stretches = [woven(textured(seed + n), moments, grain) for n in range(3)]
    found = find_scan_type(votes_of(stretches, noise=grain), FLAGGED)
    assert (found.scan, found.top_field_first) == (Scan.INTERLACED, top_first)


@given(st.integers(0, 1000), st.sampled_from([1, 2]), GRAINS)
@settings(max_examples=40)
def test_whole_frames_stay_whole_even_when_each_is_shown_twice(seed: int, each: int, grain: float) -> None:
    moments = [(float(n // each), float(n // each)) for n in range(12)]
    stretches = [woven(textured(seed + n), moments, grain) for n in range(3)]
    found = find_scan_type(votes_of(stretches, noise=grain), FLAGGED)
    assert (found.scan, found.in_fields) == (Scan.PROGRESSIVE, False)


@given(st.integers(2, 6), st.booleans(), st.integers(0, 1000))
@settings(max_examples=15)
def test_film_or_whole_frames_among_video_are_told_as_mixed(others: int, film: bool, seed: int) -> None:
    video = [(n, n + 0.5) for n in map(float, range(12))]
    whole = [(float(n), float(n)) for n in range(12)]
    stretches = [woven(textured(seed + n), film_frames(n, 20) if film else whole) for n in range(others)]
    stretches += [woven(textured(seed + 9 + n), video) for n in range(3)]
    votes = votes_of(stretches)
    found = find_scan_type(votes, FLAGGED)
    assert (found.scan, found.in_fields, found.top_field_first) == (Scan.MIXED, film, True)
    assert found.sure > 0.9
    assert [vote.scan for vote in votes[others:]] == [Scan.INTERLACED] * 3
    # a single stretch that says something else is one that was misread
    assert find_scan_type(votes[others - 1 :] * 3, FLAGGED).scan is Scan.MIXED
    assert find_scan_type([votes[0], *votes[others:] * 2], FLAGGED).scan is Scan.INTERLACED


def test_a_still_says_nothing_and_the_flags_stand_less_surely() -> None:
    still = woven(textured(1), [(0.0, 0.0)] * 12)
    found = find_scan_type(votes_of([still]), replace(FLAGGED, scan=Scan.INTERLACED, top_field_first=False))
    assert (found.scan, found.top_field_first, found.sure) == (Scan.INTERLACED, False, 0.5)


@given(
    st.tuples(*[st.integers(0, 12).map(lambda n: 2 * n)] * 2, *[st.integers(0, 10).map(lambda n: 2 * n)] * 2),
    st.integers(0, 1000),
    st.sampled_from([0.0, 8.0]),
)
def test_borders_are_found_to_the_line_through_noise_and_dark_scenes(
    edges: tuple[int, int, int, int], seed: int, noise: float
) -> None:
    top, bottom, left, right = edges
    rand = np.random.default_rng(seed)
    pictures = []
    for n in range(8):
        picture = np.clip(rand.normal(17, 2 + noise, (LINES, COLUMNS)), 0, 28 + noise)
        scene = at_moment(textured(seed + n), n)[top : LINES - bottom, left : COLUMNS - right]
        # two scenes at night, in which everything but a lamp is as dark as the border
        picture[top : LINES - bottom, left : COLUMNS - right] = scene * 0.05 + 16 if n in (2, 5) else scene
        pictures.append(picture.astype(np.uint8))
    found = find_borders(list(enumerate(pictures)), noise)
    assert found is not None
    assert (found.top, found.bottom, found.left, found.right) == edges
    assert found.sure > 0.9


def test_scenes_that_differ_keep_the_larger_picture_and_the_other_shape_is_told() -> None:
    wide = at_moment(textured(1), 0).copy()
    wide[:14], wide[-14:] = 16, 16
    full = at_moment(textured(2), 0)
    found = find_borders([(n, picture.astype(np.uint8)) for n, picture in enumerate((wide, wide, wide, full))])
    assert found is not None
    assert (found.top, found.bottom) == (0, 0)
    assert found.often == Borders(top=14, bottom=14)
    assert (found.often_share, found.widest_at_s) == (0.75, 3)
    dark = at_moment(textured(3), 0).copy()
    dark[:40] = 16
    found = find_borders([(n, picture.astype(np.uint8)) for n, picture in enumerate((wide, full, full, dark, dark))])
    assert found is not None
    assert (found.top, found.often) == (0, None)
    assert found.sure < 0.8
    assert find_borders([(0.0, np.full((LINES, COLUMNS), 18, dtype=np.uint8))] * 4) is None


@pytest.fixture(scope="module")
def tracks(tmp_path_factory: pytest.TempPathFactory) -> Title:
    """Five tracks: a tone, the same once more and later, silence, noise, and the tone ten decibels lower."""
    path = tmp_path_factory.mktemp("sounds") / "tracks.mkv"
    tone = "sine=frequency=1000:sample_rate=48000:duration=20"
    inputs = [tone, f"{tone},adelay=20", "anullsrc=r=48000:cl=mono:d=20", "anoisesrc=d=20:a=0.3:r=48000:seed=4", tone]
    argv = ["ffmpeg", "-v", "error", "-nostdin"]
    for graph in inputs:
        argv += ["-f", "lavfi", "-i", graph]
    for n in range(5):
        argv += ["-map", f"{n}:a"]
    argv += ["-filter:a:4", "volume=-10dB", "-c:a", "pcm_s16le", "-t", "20", str(path)]
    output_of(argv)
    return read_source(path).titles[0]


def test_sound_is_measured_and_silence_and_copies_are_told(tracks: Title) -> None:
    sounds = survey_title(tracks).sounds
    assert [sound.silent for sound in sounds] == [False, False, True, False, False]
    assert [sound.same_as for sound in sounds[:4]] == [None, 0, None, None]
    loudness = [sound.loudness_lufs for sound in sounds]
    assert loudness[2] is None
    assert loudness[0] is not None
    assert loudness[4] is not None
    # a full-scale sine is -3 LUFS in one channel; this one peaks at an eighth, 18.1 dB lower
    assert loudness[0] == pytest.approx(-18.06 - 3.01, abs=0.5)
    assert loudness[0] - loudness[4] == pytest.approx(10, abs=0.2)
    assert sounds[0].peak_dbfs == pytest.approx(-18.06, abs=0.2)


def test_the_demo_is_seen_as_it_was_made(film_disc: Source, series_disc: Source, media: Path) -> None:
    ferry = read_source(media / scenario.FERRY_LABEL).titles[0]
    for title, lines, scan, in_fields in (
        (film_disc.titles[0], 60, Scan.PROGRESSIVE, False),
        (series_disc.titles[0], 0, Scan.INTERLACED, False),
        (ferry, 60, Scan.TELECINED, True),
    ):
        found = survey_of(title)
        assert found.borders is not None
        assert found.scan_type is not None
        assert (found.borders.top, found.borders.bottom) == (lines, lines)
        assert (found.scan_type.scan, found.scan_type.in_fields, found.scan_type.sure > 0.7) == (
            scan,
            in_fields,
            True,
        )


def test_lines_and_forced_lines_are_counted(film_disc: Source, media: Path) -> None:
    counted = survey_of(film_disc.titles[0]).subtitles
    assert [(track.lines, track.forced) for track in counted] == [
        (len(scenario.ENGLISH_LINES), 0),
        (len(scenario.SPANISH_LINES), 0),
    ]
    heron = read_source(media / scenario.HERON_LABEL).titles[1]
    survey = survey_title(heron)
    assert [(track.lines, track.forced) for track in survey.subtitles] == [(len(scenario.HERON_LINES), 1)]
    assert with_findings(heron, survey).subtitles[0].forced is Forced.SOME


def test_only_what_is_sure_enough_changes_a_title(film_disc: Source) -> None:
    title = replace(film_disc.titles[0], subtitles=(SubtitleStream(index=0, format="dvd_subtitle"),))
    for sure, forced in ((0.3, Forced.UNKNOWN), (0.9, Forced.ALL)):
        survey = Survey(subtitles=(SubtitlesFound(index=0, lines=4, forced=4, sure=sure),))
        assert with_findings(title, survey).subtitles[0].forced is forced
    assert with_findings(title, None) == title


@pytest.mark.parametrize(
    ("unit", "shown", "forced"),
    [
        ("0010 0004 0000 0004 01 05000000000000 ff", True, False),
        ("0010 0004 0000 0004 03 0123 00 ff", True, True),
        ("0010 0004 0000 0004 02 ff", False, False),
        ("000c 0004 0000 0004 ff ff ff ff", False, False),
        ("0010 ffff 0000", False, False),
    ],
)
def test_the_commands_of_a_subpicture_unit_are_read(unit: str, shown: bool, forced: bool) -> None:
    assert subpicture_commands(bytes.fromhex(unit)) == (shown, forced)


@given(st.binary(max_size=5000), st.booleans())
def test_any_bytes_can_be_searched_for_subtitles(data: bytes, in_step: bool) -> None:
    if in_step:
        data = b"".join(
            b"\0\0\0\0\x47\x52\x00\x10" + data[at : at + 184].ljust(184, b"\0") for at in range(0, len(data), 184)
        )
    counts = {0x20: LineCount(), 0x1200: LineCount()}
    count_graphics(iter([data]), counts)
    count_subpictures(iter([data.ljust(2048, b"\0")]), counts)
    for count in counts.values():
        assert 0 <= count.forced <= count.lines <= len(data)


def test_the_same_material_has_the_same_mark_wherever_it_lies(film_disc: Source, disc_copy: Path) -> None:
    copy = read_source(disc_copy)
    assert [fingerprint(title) for title in copy.titles] == [fingerprint(title) for title in film_disc.titles]
    assert len({fingerprint(title) for title in film_disc.titles}) == len(film_disc.titles)


def test_rates_without_loss_are_read_from_the_muxer_s_lines_by_stream() -> None:
    said = [
        "#tb 0: 1/48000",
        "#tb 1: 1/1000",
        "0,          0,          0,    48000,     6000, 0x1",
        "1, 0, 0, 500, 1000, 0x2",
    ]
    assert lossless_rates([*said, "1, 500, 500, 500, 3000, 0x3", "no packet"]) == {0: 48_000, 1: 32_000}
