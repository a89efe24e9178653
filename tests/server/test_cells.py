"""Cells are kept only as long as everything they rest on is the same."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest

from rheon.core.analysis import BordersFound, Survey
from rheon.core.media.documents import dump
from rheon.server.bench import cells
from rheon.server.household.models import Device
from rheon.server.shelf.models import Source, Title

Api = Callable[..., Any]


@pytest.fixture
def film(shelf: Callable[[str], Source]) -> Title:
    return shelf("MARRAM_NIGHTS").titles.get(number=1)


@pytest.fixture
def planned(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The devices whose cells were really worked out, in order."""
    seen: list[str] = []
    real = cells.plan  # type: ignore[attr-defined]

    def watched(request: Any, **more: Any) -> Any:
        seen.append(request.devices[0].name)
        return real(request, **more)

    monkeypatch.setattr(cells, "plan", watched)
    # what an earlier test had planned for rows of the same numbers
    monkeypatch.setattr(cells, "_cells", cells.Recent(100))
    return seen


def read(api: Api, film: Title, balance: str = "") -> dict[int, Any]:
    status, found = api("get", f"bench/cells?titles={film.pk}" + (f"&balance={balance}" if balance else ""))
    assert status == 200
    return {cell["target_id"]: cell for cell in found}


def test_what_did_not_change_is_not_planned_again(
    film: Title, household: list[int], api: Api, planned: list[str]
) -> None:
    first = read(api, film)
    assert len(planned) == len(household)
    assert read(api, film) == first
    assert len(planned) == len(household)


def test_one_device_s_change_plans_its_cells_only(
    film: Title, household: list[int], api: Api, planned: list[str]
) -> None:
    before = read(api, film)
    planned.clear()
    api("patch", f"household/devices/{household[1]}", {"sound": "stereo", "languages": ["es"]})
    read(api, film)
    assert planned == ["Heron 8"]
    planned.clear()
    profile = Device.objects.get(pk=household[1]).profile
    profile["video"][0] |= {"max_width": 320, "max_height": 240}
    api("put", f"household/devices/{household[1]}", {"document": json.dumps(profile)})
    after = read(api, film)
    assert planned == ["Heron 8"]
    assert after[household[1]]["estimate"]["size_bytes"] < before[household[1]]["estimate"]["size_bytes"]


def test_pins_and_balances_have_cells_of_their_own(
    film: Title, household: list[int], api: Api, planned: list[str]
) -> None:
    even = read(api, film)
    lean = read(api, film, "lean")
    assert lean[household[0]]["estimate"]["size_bytes"] < even[household[0]]["estimate"]["size_bytes"]
    planned.clear()
    api("patch", f"bench/plans/{film.pk}/{household[0]}", {"pins": {"picture.size": "240"}})
    small = read(api, film)
    assert planned == ["Wren 6"]
    assert small[household[0]]["by_hand"] and not small[household[1]]["by_hand"]
    api("patch", f"bench/plans/{film.pk}/{household[0]}", {"pins": {"picture.size": None}})
    planned.clear()
    assert read(api, film) == even
    assert planned == []
    api("put", "bench", {"balance": "lean"})
    assert read(api, film) == lean
    assert planned == []


def test_what_is_found_out_about_a_title_makes_its_cells_old(
    film: Title, household: list[int], api: Api, planned: list[str]
) -> None:
    before = read(api, film)
    planned.clear()
    edges = BordersFound(top=60, bottom=60, left=0, right=0, sure=1.0)
    Title.objects.filter(pk=film.pk).update(survey=dump(Survey(borders=edges)))
    after = read(api, film)
    assert len(planned) == len(household)
    assert after[household[0]]["estimate"]["size_bytes"] < before[household[0]]["estimate"]["size_bytes"]


def test_the_longest_unused_goes_first_where_there_is_no_more_room() -> None:
    kept = cells.Recent(2)
    for key in ("a", "b"):
        kept.put(key, key)
    assert kept.get("a") == "a"
    kept.put("c", "c")
    assert [kept.get(key) for key in ("a", "b", "c")] == ["a", None, "c"]


@pytest.mark.parametrize("query", ["titles=", "titles=1;2", "titles=1&balance=huge", ""])
def test_a_senseless_question_is_refused(api: Api, db: None, query: str) -> None:
    assert api("get", f"bench/cells?{query}")[0] == 400


def test_titles_that_are_gone_have_no_cells(film: Title, household: list[int], api: Api) -> None:
    found = api("get", f"bench/cells?titles={film.pk + 999},{film.pk}")[1]
    assert {cell["title_id"] for cell in found} == {film.pk}
