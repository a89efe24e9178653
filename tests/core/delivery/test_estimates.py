"""Estimates from samples against what really comes out."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from tests.instruments.authored import Pictures, author
from tests.thorough import thorough

from rheon.core.analysis import frame_jpeg, frame_times, sample_pictures
from rheon.core.delivery import Order, convert
from rheon.core.encoding import Hooks, Viewing, measure_fidelity, measured_rate, reference_in, turns_of
from rheon.core.media import Source
from rheon.core.planning import Balance, PlanRequest, plan, read_pins
from rheon.core.sources import read_source
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


@pytest.mark.parametrize("balance", [Balance.LEAN, thorough(Balance.RICH)])
def test_seconds_that_were_made_say_what_all_of_it_will_take(tmp_path: Path, balance: Balance) -> None:
    """Grain that comes after a third of it, on a small screen: samples at the stored size say little of that."""
    late = "noise=alls=16:allf=t:enable='gt(t,7)'"
    pictures = Pictures(count=500, rate=Fraction(25))
    title = read_source(
        author(tmp_path / "grain.mkv", pictures, ("-c:v", "libx264", "-qp", "12"), filters=late)
    ).titles[0]
    request = PlanRequest(title=title, devices=(device("handheld-2012"),), name="x", balance=balance)
    first = plan(request)
    assert first.settings and first.estimate
    last = turns_of(title, first.settings) - 1
    assert last > 0
    reference = reference_in(tmp_path, title, first.settings, last)
    found = measure_fidelity(title, first.settings, Viewing(), reference)
    rate = measured_rate([(), found.stretches], 2, first.settings)
    assert rate is not None
    made = plan(replace(request, measured_rates={first.settings.picture_mark: rate}))
    assert made.settings == first.settings and made.estimate and made.estimate.from_seconds
    done = convert(Order(title=title, plan=made, devices=[device("handheld-2012")], folder=tmp_path, token="t"))
    assert made.estimate.size_low_bytes <= done.size_bytes <= made.estimate.size_high_bytes
    # they differ, and are not sure of more than they saw
    assert made.estimate.size_high_bytes > 1.2 * made.estimate.size_bytes


def test_frames_come_from_where_they_are_asked_for(film_disc: Source) -> None:
    film = film_disc.titles[0]
    times = frame_times(film.duration_s, 6)
    assert times == sorted(times)
    assert 0 < times[0] < times[-1] < film.duration_s
    pictures = [frame_jpeg(film, at, 90) for at in times]
    assert len(set(pictures)) == 6
    assert all(picture.startswith(b"\xff\xd8") for picture in pictures)


@pytest.mark.parametrize(
    ("codec", "name"), [("h264", "heron-8"), thorough("hevc", "curlew-9"), thorough("vp9", "wren-6")]
)
def test_a_size_that_is_asked_for_comes_out_of_a_short_title_too(codec: str, name: str, tmp_path: Path) -> None:
    late = "noise=alls=16:allf=t:enable='gt(t,8)'"
    pictures = Pictures(count=300, rate=Fraction(25))
    grain = author(tmp_path / "grain.mkv", pictures, ("-c:v", "libx264", "-qp", "10"), filters=late)
    title = read_source(grain).titles[0]
    pins = read_pins({"picture.rate": "size:1", "picture.codec": codec})
    made = plan(PlanRequest(title=title, devices=(device(name),), name="x", pins=pins))
    seen: list[float] = []
    hooks = Hooks(on_progress=lambda step: seen.append(step.fraction))
    done = convert(Order(title=title, plan=made, devices=[device(name)], folder=tmp_path, token="t"), hooks)
    assert done.size_bytes == pytest.approx(1e6, rel=0.02)
    assert seen == sorted(seen)
