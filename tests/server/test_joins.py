"""Titles that somebody joined: they stand on the Shelf, stay after a re-scan, and say when a part is gone."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from rheon.server.shelf.actions.looking import look_over
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import remove_source
from rheon.server.shelf.actions.surveys import survey_now
from rheon.server.shelf.models import Join, Source, Title

from .conftest import read

Api = Callable[..., Any]
Shelf = Callable[[str], Source]


def episodes(source: Source) -> list[Title]:
    return list(source.titles.filter(role="episode").order_by("number"))


def join(api: Api, titles: list[Title], name: str = "") -> Title:
    status, said = api("post", "shelf/joins", {"titles": [title.pk for title in titles], "name": name})
    assert status == 201
    return Title.objects.get(pk=said["id"])


def test_a_join_stands_on_its_first_part_s_source_with_chapters_named_by_the_parts(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS")
    two, three = episodes(source)[:2]
    made = join(api, [three, two])
    assert made.name == "Lock Keepers"
    document = api("get", f"shelf/titles/{made.pk}")[1]
    assert document["duration_s"] == pytest.approx(two.duration_s + three.duration_s, abs=0.05)
    assert [(part["id"], part["name"], part["at_s"]) for part in document["parts"]] == [
        (three.pk, three.name, 0.0),
        (two.pk, two.name, pytest.approx(three.duration_s, abs=0.05)),
    ]
    assert document["parts_agree"] is True
    assert document["reasons"] == ["2 parts, one after the other"]
    named = [chapter["name"] for chapter in document["chapters"] if chapter["name"]]
    assert named == [three.name, two.name]
    strips = {strip["id"]: strip for strip in api("get", "shelf/sources")[1][0]["titles"]}
    assert (strips[made.pk]["part_count"], strips[two.pk]["part_count"]) == (2, 0)


def test_order_name_and_survey_of_a_join_stay_after_a_re_scan_and_it_can_be_taken_apart(shelf: Shelf, api: Api) -> None:
    source = shelf("LOCK_KEEPERS")
    one, two, three = episodes(source)[:3]
    made = join(api, [one, two], "Both")
    assert api("put", f"shelf/joins/{made.pk}", {"titles": [three.pk, one.pk, two.pk]})[0] == 204
    survey_now(made.pk)
    api("post", f"shelf/sources/{source.pk}/read-again")
    read_now(source.pk)
    made.refresh_from_db()
    assert made.name == "Both" and made.survey is not None
    assert made.core_title().video is not None and made.core_title().video.borders is not None  # type: ignore[union-attr]
    said = api("get", f"shelf/titles/{made.pk}")[1]
    assert [part["id"] for part in said["parts"]] == [three.pk, one.pk, two.pk]
    api("patch", f"shelf/titles/{one.pk}", {"name": "The first"})
    assert api("get", f"shelf/titles/{made.pk}")[1]["parts"][1]["name"] == "The first"
    assert (
        api("put", f"shelf/titles/{made.pk}/parts", {"ranges": [{"first": 1, "last": 1}]})[1]["code"] == "no_such_title"
    )
    assert api("delete", f"shelf/joins/{made.pk}")[0] == 204
    assert not Title.objects.filter(pk=made.pk).exists() and not Join.objects.exists()
    assert Title.objects.filter(pk=one.pk).exists()
    assert api("delete", f"shelf/joins/{one.pk}")[1]["code"] == "cant_join"


def test_parts_of_two_sources_are_one_until_a_part_leaves(own_media: Path, media: Path, api: Api, db: None) -> None:
    for name in ("LOCK_KEEPERS", "SALT_ROAD"):
        shutil.copytree(media / name, own_media / name)
    one, other = (read(own_media / name) for name in ("LOCK_KEEPERS", "SALT_ROAD"))
    first, second = episodes(one)[0], other.titles.order_by("-duration_s").first()
    assert second is not None
    made = join(api, [first, second])
    look_over()
    assert Source.objects.get(pk=one.pk).state == "ready"
    api("post", f"shelf/sources/{other.pk}/read-again")
    read_now(other.pk)
    made.refresh_from_db()
    assert made.outline["fault"] is None
    remove_source(Source.objects.get(pk=other.pk))
    made.refresh_from_db()
    assert made.outline["fault"] == made.core_title().fault == "part_missing"
    assert api("get", f"shelf/titles/{made.pk}")[1]["fault"] == "part_missing"
    # the first part's source takes the join with it
    remove_source(Source.objects.get(pk=one.pk))
    assert not Title.objects.filter(pk=made.pk).exists()


@pytest.mark.parametrize("count", [0, 1])
def test_less_than_two_titles_are_no_join(shelf: Shelf, api: Api, count: int) -> None:
    titles = episodes(shelf("LOCK_KEEPERS"))[:count]
    if not count:
        assert api("post", "shelf/joins", {"titles": []})[0] == 422
        assert api("post", "shelf/joins", {"titles": [2**64]})[0] == 400
        return
    status, said = api("post", "shelf/joins", {"titles": [title.pk for title in titles]})
    assert (status, said["code"]) == (422, "cant_join")
    assert said["message"].startswith("A join is made of 2 to 100 titles.")
    made = join(api, [titles[0], titles[0]])
    assert made.duration_s == pytest.approx(2 * titles[0].duration_s, abs=0.05)
    assert api("post", "shelf/joins", {"titles": [made.pk, titles[0].pk]})[1]["code"] == "cant_join"


def test_each_join_has_a_number_of_its_own_whichever_was_taken_apart(shelf: Shelf, api: Api) -> None:
    two, three, four = episodes(shelf("LOCK_KEEPERS"))[:3]
    first, second = join(api, [two, three]), join(api, [three, four])
    assert api("delete", f"shelf/joins/{first.pk}")[0] == 204
    assert join(api, [two, four]).number != second.number
