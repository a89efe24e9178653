"""How works that a service knows stand to what is here, held against what whoever wrote the cases means."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.look_up.matching import Here, Match, likeness, matches
from rheon.core.look_up.works import ListedEpisode, Work, WorkKind, WorkQuestion
from rheon.core.media import Tags
from rheon.core.media.tags import tags_of
from rheon.core.wording import sentence

FILM = WorkQuestion(kind=WorkKind.FILM, title="Marram Nights", year=1994)
SERIES = WorkQuestion(kind=WorkKind.SERIES, title="Lantern Street", season=1)
KNOWN = Work(kind=WorkKind.FILM, title="Marram Nights", year=1994, director="Ada Fenwick", duration_s=5538)


def series(*lengths_s: float | None, season: int | None = 1, first: int = 1) -> Work:
    episodes = tuple(
        ListedEpisode(number=number, title=f"Name {number}", duration_s=length)
        for number, length in enumerate(lengths_s, first)
    )
    return Work(kind=WorkKind.SERIES, title="Lantern Street", season=season, episodes=episodes)


def here(*lengths_s: float, first: int | None = 1) -> list[Here]:
    return [
        Here(number=number + 1, duration_s=length, frame_rate=25, episode=None if first is None else first + number)
        for number, length in enumerate(lengths_s)
    ]


def film(work: Work, here_s: float, rate: float = 25, question: WorkQuestion = FILM) -> Match:
    (found,) = matches([work], question, [Here(number=1, duration_s=here_s, frame_rate=rate)])
    return found


def codes(match: Match) -> set[str]:
    return {fact.reason.code for fact in match.facts}


@pytest.mark.parametrize(
    ("there_s", "here_s", "rate", "code"),
    [
        (5538, 5538, 25, "work_length"),
        (5538, 5600, 24, "work_length"),  # a logo before it
        (5520, 5578, 24, "work_length"),  # told in minutes
        (5760, 5530, 25, "work_length_sped_here"),
        (5530, 5760, 23.976, "work_length_sped_there"),
        (5760, 5530, 24, "work_length_other"),  # nobody has sped it up
        (5538, 6120, 25, "work_length_other"),
        (5538, 1800, 25, "work_length_other"),
        (None, 5538, 25, "work_length_untold"),
    ],
)
def test_a_length_agrees_within_its_cut_and_at_the_speed_of_television(
    there_s: float | None, here_s: float, rate: float, code: str
) -> None:
    found = film(replace(KNOWN, duration_s=there_s), here_s, rate)
    assert code in codes(found)
    assert found.agrees == (code in ("work_length", "work_length_sped_here", "work_length_sped_there"))


@pytest.mark.parametrize(
    ("work", "agrees"),
    [
        (KNOWN, True),
        (replace(KNOWN, year=None), True),
        (replace(KNOWN, year=1995), True),  # made in one year, shown in the next
        (replace(KNOWN, year=2016), False),
        (replace(KNOWN, title="The Marram Nights!"), True),
        (replace(KNOWN, title="Marram nights"), True),
        (replace(KNOWN, title="Marsh Knights of the Long Water"), False),
        (replace(KNOWN, duration_s=None), False),  # nothing that proves it
    ],
)
def test_a_film_agrees_by_name_year_and_length(work: Work, agrees: bool) -> None:
    assert film(work, 5540).agrees is agrees


def test_the_surest_comes_first_and_works_of_the_other_kind_not_at_all() -> None:
    remake, cut = replace(KNOWN, year=2016, duration_s=6120), replace(KNOWN, duration_s=6480, edition="extended")
    found = matches([remake, cut, series(20), KNOWN], FILM, [Here(number=3, duration_s=6475)])
    assert found[0].work.edition == "extended"
    assert [match.agrees for match in found] == [True, False, False]
    assert found[0].tags[3] == {
        "kind": "film", "title": "Marram Nights", "edition": "extended", "year": 1994, "director": "Ada Fenwick",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("listed", "titles", "numbers", "agrees", "code"),
    [
        (series(1300, 1500, 1400), here(1301, 1502, 1399), [1, 2, 3], True, "work_episodes"),
        (series(1300, 1500, 1400), here(1301, 1502), [1, 2], True, "work_episodes_some"),
        # on the second disc, and counted on; or counted from 1, since nobody knew
        (series(1300, 1500, 1400, 1700), here(1400, 1700, first=3), [3, 4], True, "work_episodes_some"),
        (series(1300, 1500, 1400, 1700), here(1400, 1700), [3, 4], True, "work_episodes_moved"),
        (series(1300, 1500, 1400, 1700), here(1400, 1700, first=None), [3, 4], True, "work_episodes_moved"),
        # all of one length: nothing says that the numbers here are wrong
        (series(*[1500] * 6), here(1500, 1500, first=5), [5, 6], True, "work_episodes_some"),
        # and where nobody knew them, nothing says that they are right
        (series(*[1500] * 6), here(1500, 1500, first=None), [1, 2], False, "work_episodes_anywhere"),
        (series(*[None] * 6), here(1500, 1500, first=2), [2, 3], False, "work_length_untold"),
        (series(1300, 1500), here(1300, 1500, 1400), [1, 2], False, "work_episodes_more_here"),
        (series(1300, 1500, 1400), here(2600, 2600, 2600), [1, 2, 3], False, "work_episode_lengths_other"),
        (series(1300, 1500, season=2), here(1300, 1500), [1, 2], False, "work_season_other"),
        (series(), here(1300, 1500), [], False, "work_episodes_untold"),
        # an episode is missing here
        (
            series(1300, 1500, 1400),
            [Here(number=1, duration_s=1300, episode=1), Here(number=2, duration_s=1400, episode=3)],
            [1, 3], True, "work_episodes_some",
        ),
    ],
)  # fmt: skip
def test_episodes_are_found_by_their_number_and_their_lengths(
    listed: Work, titles: list[Here], numbers: list[int], agrees: bool, code: str
) -> None:
    (found,) = matches([listed], SERIES, titles)
    assert [tags["episode"] for tags in found.tags.values()] == numbers
    assert [tags["title"] for tags in found.tags.values()] == [f"Name {number}" for number in numbers]
    assert code in codes(found) or (code == "work_episodes_moved" and titles[0].episode is None)
    assert found.agrees is agrees


@pytest.mark.parametrize(
    ("one", "other", "least", "most"),
    [
        ("Das Ende der Düne", "das ende der dune", 1, 1),
        ("The Weir", "Weir, The", 0.3, 0.9),
        ("終わり", "終わり", 1, 1),
        ("Marram Nights", "Lantern Street", 0, 0.5),
        ("", "Lantern Street", 0, 0),
    ],
)
def test_names_are_alike_whatever_their_accents_and_articles(one: str, other: str, least: float, most: float) -> None:
    assert least <= likeness(one, other) <= most


TEXTS = st.text(max_size=20)
LENGTHS = st.none() | st.floats(1, 20_000)
WORKS = st.builds(
    Work,
    kind=st.sampled_from(WorkKind),
    title=TEXTS,
    year=st.none() | st.integers(1888, 2030),
    season=st.none() | st.integers(0, 12),
    director=TEXTS,
    duration_s=LENGTHS,
    episodes=st.lists(
        st.builds(ListedEpisode, number=st.integers(0, 40), title=TEXTS, duration_s=LENGTHS),
        max_size=12,
        unique_by=lambda one: one.number,
    ).map(tuple),
)
TITLES = st.lists(
    st.builds(
        Here,
        number=st.integers(1, 99),
        duration_s=st.floats(1, 20_000),
        frame_rate=st.sampled_from([0, 23.976, 25, 29.97]),
        episode=st.none() | st.integers(0, 40),
    ),
    min_size=1,
    max_size=12,
    unique_by=lambda one: one.number,
)
QUESTIONS = st.builds(
    WorkQuestion,
    kind=st.sampled_from(WorkKind),
    title=TEXTS,
    year=st.none() | st.integers(1888, 2030),
    season=st.none() | st.integers(0, 12),
)


@given(st.lists(WORKS, max_size=4), QUESTIONS, TITLES)
def test_whatever_is_known_is_told_in_order_and_gives_no_number_twice(
    works: list[Work], question: WorkQuestion, titles: list[Here]
) -> None:
    found = matches(works, question, titles)
    assert len(found) == sum(work.kind is question.kind for work in works)
    assert [match.sure for match in found] == sorted((match.sure for match in found), reverse=True)
    claimed = [one.episode for one in titles if one.episode is not None]
    for match in found:
        assert 0 <= match.sure <= 1 and all(sentence(fact.reason) for fact in match.facts)
        assert set(match.tags) <= {one.number for one in titles}
        assert all(isinstance(tags_of(tags), Tags) for tags in match.tags.values())
        if question.kind is WorkKind.SERIES and len(set(claimed)) == len(claimed):
            numbers = [tags["episode"] for tags in match.tags.values()]
            assert len(set(numbers)) == len(numbers)
        if match.agrees:
            assert all(fact.agrees is not False for fact in match.facts)
