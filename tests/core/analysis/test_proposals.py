"""What a series has in common and where credits begin is found to the picture; programme is never proposed."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.instruments.series import Episode, Scene
from tests.thorough import thorough

from rheon.core.analysis.proposals import (
    Leaders,
    Shared,
    Sibling,
    SoundFingerprints,
    Why,
    find_credits,
    find_shared,
    proposed,
    sound_fingerprints_of,
)
from rheon.core.analysis.proposals.sound_fingerprints import CENTRE_S, STEP_S, same_sounds
from rheon.core.media import Title
from rheon.core.sources import read_source

A_PICTURE_S = 0.05
H264 = ("-c:v", "libx264", "-preset", "ultrafast", "-crf", "24", "-g", "100", "-c:a", "aac", "-b:a", "96k")
ROUGH = ("-c:v", "libx264", "-preset", "ultrafast", "-crf", "34", "-g", "250", "-c:a", "libmp3lame", "-b:a", "64k")
BROADCAST = ("-vf", "scale=352:288", "-c:v", "mpeg2video", "-b:v", "2M", "-g", "15", "-bf", "2", "-c:a", "ac3")
COPIES = (("mkv", H264), ("mp4", ROUGH), ("ts", (*BROADCAST, "-f", "mpegts")))


def scene(
    seconds: float, pictures: str, sound: str, seed: int, *, name: str = "programme", under: int | None = None
) -> Scene:
    return Scene(seconds=seconds, pictures=(pictures, seed), sound=(sound, seed), name=name, under=under)


def episode(number: int) -> Episode:
    """A logo, a start that looks back to the episode before, an opening, the story with the series' music, credits."""
    story = 1000 * (number + 1)
    return Episode(
        seed=number,
        noise=2.0 + 2 * number,
        coding=COPIES[number % len(COPIES)][1],
        scenes=(
            scene(4.8, "logo", "music", 1, name="logo"),
            scene(8.8 + 3.2 * number, "shots", "talk", story - 1000 + 5),
            scene(12.4, "shots", "music", 2, name="opening"),
            scene(16, "shots", "talk", story),
            scene(8.8, "shots", "talk", story + 5),
            # the same music, once by day and once by night, under what only this episode shows
            Scene(seconds=10.4, pictures=("shots", story + 1), sound=("music", 3)),
            Scene(seconds=10.4, pictures=("night", story + 2), sound=("music", 4)),
            Scene(seconds=12, pictures=("dots", story + 3), sound=("talk", story + 3), under=6),
            Scene(seconds=14.4, pictures=("text", story + 4), sound=("music", 5), name="credits"),
        ),
    )


def read(made: Episode, path: Path) -> Title:
    return read_source(made.make(path)).titles[0]


@pytest.fixture(scope="module")
def series(tmp_path_factory: pytest.TempPathFactory) -> list[tuple[Episode, Title]]:
    folder = tmp_path_factory.mktemp("series")
    made = [(episode(number), COPIES[number][0]) for number in range(3)]
    return [(one, read(one, folder / f"{number}.{suffix}")) for number, (one, suffix) in enumerate(made)]


def found_in(titles: Sequence[Title]) -> list[list[Shared]]:
    prints = [sound_fingerprints_of(title) for title in titles]
    others = [Sibling(title=title, fingerprints=heard) for title, heard in zip(titles, prints, strict=True)]
    return [
        find_shared(title, heard, [other for other in others if other.title is not title])
        for title, heard in zip(titles, prints, strict=True)
    ]


def test_logos_openings_and_credits_of_a_series_are_found_and_nothing_of_its_stories(
    series: list[tuple[Episode, Title]],
) -> None:
    titles = [title for _, title in series]
    for (made, title), shared in zip(series, found_in(titles), strict=True):
        credits_s = find_credits(title)
        said = proposed(title.duration_s, Leaders(), credits_s, shared)
        truth = [*made.stretches("logo"), *made.stretches("opening"), *made.stretches("credits")]
        assert len(said) == len(truth), said
        for one, (from_s, until_s) in zip(said, truth, strict=True):
            assert (one.from_s, one.until_s) == pytest.approx((from_s, until_s), abs=A_PICTURE_S)
        assert (said[0].from_s, said[-1].until_s, said[-1].why) == (0.0, title.duration_s, Why.CREDITS)


def test_two_episodes_are_enough_and_the_same_one_twice_says_nothing(series: list[tuple[Episode, Title]]) -> None:
    (made, first), (_, second), _ = series
    prints = sound_fingerprints_of(first)
    other = Sibling(title=second, fingerprints=sound_fingerprints_of(second))
    opening = made.stretches("opening")[0]
    found = find_shared(first, prints, [other])
    assert [round(one.from_s) for one in found] == [0, round(opening[0]), round(made.stretches("credits")[0][0])]
    assert find_shared(first, prints, [Sibling(title=first, fingerprints=prints)]) == []
    assert find_shared(first, prints, []) == []


def test_episodes_with_only_music_in_common_have_nothing_to_leave_out(tmp_path: Path) -> None:
    titles = []
    for number in range(2):
        scenes = (
            scene(12, "shots", "talk", 50 + number),
            Scene(seconds=12, pictures=("shots", 60 + number), sound=("music", 70)),
            Scene(seconds=12, pictures=("night", 80 + number), sound=("music", 71)),
        )
        titles.append(read(Episode(seed=number, scenes=scenes), tmp_path / f"{number}.mkv"))
    assert found_in(titles) == [[], []]
    assert [find_credits(title) for title in titles] == [None, None]


BLACK = Scene(seconds=3.2, pictures=("black", 0), sound=("silence", 0), name="black")


@pytest.mark.parametrize(
    ("scenes", "wanted_s"),
    [
        ((scene(34, "shots", "talk", 1), scene(26, "text", "music", 2), BLACK), 34.0),
        thorough((scene(34, "night", "talk", 3), BLACK, scene(20, "text", "talk", 4)), 37.2),
        # names at the beginning, a dark ending, a card that is soon over, black alone
        thorough((scene(20, "text", "music", 5), scene(34, "shots", "talk", 6)), None),
        ((scene(34, "shots", "talk", 7), scene(20, "night", "music", 8)), None),
        thorough((scene(34, "shots", "talk", 12), scene(20, "dots", "music", 13)), None),
        ((scene(40, "shots", "talk", 9), scene(6, "text", "music", 10), BLACK), None),
        thorough((scene(40, "shots", "talk", 11), BLACK, BLACK, BLACK), None),
    ],
)
def test_credits_of_a_film_begin_where_only_text_is_left(
    scenes: tuple[Scene, ...], wanted_s: float | None, tmp_path: Path
) -> None:
    found = find_credits(read(Episode(scenes=scenes), tmp_path / "film.mkv"))
    assert (found is None) == (wanted_s is None), found
    assert found is None or wanted_s is None or abs(found - wanted_s) <= A_PICTURE_S


PLACES = st.one_of(st.just(0), st.integers(30, 90))


@given(seed=st.integers(0, 2**32 - 1), at=PLACES, there=PLACES, length=st.integers(40, 90))
def test_the_same_prints_are_found_wherever_they_lie(seed: int, at: int, there: int, length: int) -> None:
    random = np.random.default_rng(seed)

    def prints(place: int, common: np.ndarray) -> tuple[SoundFingerprints, ...]:
        values = random.integers(0, 2**32, 220, np.uint64).astype("<u4")
        values[place : place + length] = common
        return (SoundFingerprints(from_s=0.0, values=values),)

    common = random.integers(0, 2**32, length, np.uint64).astype("<u4")
    flipped = common ^ (np.uint32(1) << random.integers(0, 32, length).astype(np.uint32))
    (found,) = same_sounds(prints(at, common), prints(there, flipped))
    centre_s = 0.0 if 0 in (at, there) else CENTRE_S
    assert found.from_s == pytest.approx(at * STEP_S + centre_s, abs=0.7)
    assert found.until_s == pytest.approx((at + length) * STEP_S + CENTRE_S, abs=0.7)
    assert found.later_s == pytest.approx((there - at) * STEP_S)


@pytest.mark.parametrize(
    ("leaders", "credits_s", "shared", "wanted"),
    [
        (Leaders(begins_s=2.0, ends_s=95.0), None, (), [(0, 2, Why.QUIET), (95, 100, Why.QUIET)]),
        # a logo right behind the black goes with it, and closing music goes on into the black
        (Leaders(begins_s=2.0, ends_s=95.0), None, ((2.3, 8), (80, 94.6)), [(0, 8, Why.SHARED), (80, 100, Why.SHARED)]),
        # music begins a little before the text, or well before it
        (Leaders(), 80.0, ((79, 99),), [(80, 100, Why.CREDITS)]),
        (Leaders(), 80.0, ((70, 99),), [(70, 100, Why.SHARED)]),
        (Leaders(ends_s=97.0), 80.0, ((20, 30),), [(20, 30, Why.SHARED), (80, 100, Why.CREDITS)]),
    ],
)
def test_what_was_found_is_proposed_once_and_from_end_to_end(
    leaders: Leaders,
    credits_s: float | None,
    shared: Sequence[tuple[float, float]],
    wanted: list[tuple[float, float, Why]],
) -> None:
    given_ = [Shared(from_s=from_s, until_s=until_s, others=2) for from_s, until_s in shared]
    assert [(one.from_s, one.until_s, one.why) for one in proposed(100.0, leaders, credits_s, given_)] == wanted
