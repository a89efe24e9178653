"""Estimates from samples against what really comes out."""

from __future__ import annotations

from pathlib import Path

import pytest
from tests.thorough import thorough

from rheon.core.analysis import frame_jpeg, frame_times, sample_pictures
from rheon.core.delivery import Order, convert
from rheon.core.media import Source
from rheon.core.planning import Balance, PlanRequest, plan
from rheon.demo.models import device


@pytest.mark.parametrize("balance", [Balance.LEAN, thorough(Balance.RICH)])
@pytest.mark.parametrize(("disc", "number", "name"), [("series", 2, "heron-8"), thorough("film", 5, "wren-6")])
def test_a_file_comes_out_within_the_bounds_that_were_promised(
    film_disc: Source, series_disc: Source, tmp_path: Path, disc: str, number: int, name: str, balance: Balance
) -> None:
    source = film_disc if disc == "film" else series_disc
    title = next(entry for entry in source.titles if entry.number == number)
    request = PlanRequest(
        title=title,
        devices=(device(name),),
        name="x",
        languages=("en",),
        balance=balance,
        samples=sample_pictures(title),
    )
    made = plan(request)
    done = convert(Order(title=title, plan=made, devices=[device(name)], folder=tmp_path, token="t"))
    assert made.estimate
    assert made.estimate.size_low_bytes <= done.size_bytes <= made.estimate.size_high_bytes


def test_frames_come_from_where_they_are_asked_for(film_disc: Source) -> None:
    film = film_disc.titles[0]
    times = frame_times(film.duration_s, 6)
    assert times == sorted(times)
    assert 0 < times[0] < times[-1] < film.duration_s
    pictures = [frame_jpeg(film, at, 90) for at in times]
    assert len(set(pictures)) == 6
    assert all(picture.startswith(b"\xff\xd8") for picture in pictures)
