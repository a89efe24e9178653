"""Black borders in plans: cut away, kept for a reason, or as somebody said."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rheon.core.devices import catalogue
from rheon.core.errors import BadPin
from rheon.core.media import Borders, Source, Title
from rheon.core.planning import Action, Plan, PlanRequest, plan, read_pins
from rheon.core.planning.decisions.picture.aspect import ASPECTS
from rheon.core.sources import read_source
from rheon.demo.models import device

BARS = Borders(top=60, bottom=60)


@pytest.fixture
def film(film_disc: Source) -> Title:
    title = film_disc.titles[0]
    assert title.video
    return replace(title, video=replace(title.video, borders=BARS))


def planned(title: Title, **pins: str) -> Plan:
    set_by_hand = read_pins({key.replace("_", "."): value for key, value in pins.items()})
    return plan(PlanRequest(title=title, devices=(device("heron-8"),), name="x", languages=("en",), pins=set_by_hand))


def cut(made: Plan) -> tuple[Borders, str, str, tuple[int, int]]:
    decision = next(entry for entry in made.decisions if entry.key == "picture.crop")
    assert made.settings and made.settings.video
    video = made.settings.video
    return video.crop, decision.text, decision.reason.code, (video.width, video.height)


def test_borders_are_cut_away_and_the_ratio_of_the_picture_stays(film: Title) -> None:
    assert cut(planned(film)) == (BARS, "60 above, 60 below", "black_borders", (854, 360))


def test_borders_stay_where_subtitle_pictures_may_stand_in_them(film: Title) -> None:
    assert cut(planned(film, subtitles_track="0")) == (Borders(), "nothing", "subtitles_in_borders", (854, 480))


def test_a_pin_says_how_much_or_nothing(film: Title) -> None:
    assert cut(planned(film, picture_crop="none"))[:3] == (Borders(), "nothing", "pinned")
    by_hand = cut(planned(film, picture_crop="40,80,8,8", subtitles_track="0"))
    assert by_hand[:3] == (Borders(top=40, bottom=80, left=8, right=8), "40 above, 80 below, 8 left, 8 right", "pinned")
    assert cut(planned(film, picture_crop="auto"))[0] == BARS


@pytest.mark.parametrize(
    "name", ["MARRAM_NIGHTS", "HERON_REACH", "camera/Kite day.mp4", "camera/Regatta, two languages.mkv"]
)
def test_planes_of_discs_and_files_are_whole_unless_a_side_is_odd(name: str, media: Path) -> None:
    title = read_source(media / name).titles[0]
    assert title.video
    for change, whole in (({}, True), ({"width": title.video.width - 1}, False), ({"planar": False}, False)):
        changed = replace(title, video=replace(title.video, **change))
        made = planned(changed, picture_size="240", picture_crop="none").settings
        assert made and made.video and made.video.whole_planes_from == whole


@pytest.mark.parametrize("pin", ["much", "60,60", "240,240,0,0", "0,0,330,330", "-2,0,0,0"])
def test_a_senseless_crop_is_refused_with_how_to_say_it(film: Title, pin: str) -> None:
    with pytest.raises(BadPin) as refused:
        planned(film, picture_crop=pin)
    assert refused.value.message


@given(st.integers(0, 100), st.integers(0, 100), st.integers(0, 100), st.integers(0, 100))
def test_whatever_is_cut_the_shape_of_what_is_left_is_kept(
    film_disc: Source, top: int, bottom: int, left: int, right: int
) -> None:
    title = film_disc.titles[0]
    made = planned(title, picture_crop=f"{top},{bottom},{left},{right}")
    assert made.settings and made.settings.video and title.video
    video, crop = made.settings.video, made.settings.video.crop
    kept = (title.video.width - crop.left - crop.right) * title.video.sample_aspect
    wanted = float(kept / (title.video.height - crop.top - crop.bottom))
    assert video.width / video.height == pytest.approx(wanted, rel=0.02)


@settings(max_examples=300, deadline=None)
@given(
    st.sampled_from(sorted(catalogue())),
    st.sampled_from(["auto", *ASPECTS]),
    st.sampled_from(["auto", "0", "90", "180", "270"]),
    st.sampled_from(["fit", "fill"]),
    st.sampled_from([0, 90, 180, 270]),
    st.tuples(*(st.integers(0, 100) for _ in range(4))),
)
def test_for_every_device_a_circle_stays_one_within_a_hundredth(
    film_disc: Source, name: str, aspect: str, turn: str, fit: str, told: int, sides: tuple[int, ...]
) -> None:
    title = film_disc.titles[0]
    assert title.video
    video = replace(title.video, rotation=told)
    pins = {"picture.crop": ",".join(map(str, sides)), "picture.aspect": aspect, "picture.rotation": turn}
    target = catalogue()[name]
    if target.screen:
        pins["picture.screen_fit"] = fit
    request = PlanRequest(title=replace(title, video=video), devices=(target,), name="x", pins=read_pins(pins))
    made = plan(request)
    if made.settings is None or made.settings.video is None or made.settings.video.action is Action.COPY:
        return
    out = made.settings.video
    assert out.rotation == (told if turn == "auto" else -int(turn) % 360)
    lying = bool(out.rotation % 180)
    whole = Fraction(aspect.replace(":", "/")) if aspect != "auto" else None
    stored = title.video.sample_aspect * video.width / video.height
    seen = whole or (1 / stored if lying else stored)
    cut, (wide, high) = (
        out.crop.turned(out.rotation),
        (video.height, video.width) if lying else (video.width, video.height),
    )
    pixel = seen * high / wide
    left_wide, left_high = wide - cut.left - cut.right, high - cut.top - cut.bottom
    stretched = (Fraction(out.width, left_wide) * out.sample_aspect / pixel) / Fraction(out.height, left_high)
    # a small picture is rounded to whole pairs of pixels
    assert float(stretched) == pytest.approx(1, abs=max(0.01, 1.01 / min(out.width, out.height)))
