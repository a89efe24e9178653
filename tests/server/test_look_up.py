"""Works that a service knows: sent only with a yes, taken only when seen, and the same is not asked twice."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import timedelta
from http.server import ThreadingHTTPServer
from typing import Any

import pytest
from django.utils import timezone

from rheon.demo.works import Asked, serve
from rheon.server.shelf.actions.look_up import KEPT_FOR, forget_answers
from rheon.server.shelf.models import Answer, Source, Title

Api = Callable[..., Any]
Shelf = Callable[[str], Source]

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def asked(settings: Any, monkeypatch: pytest.MonkeyPatch) -> Iterator[list[str]]:
    """What the service of the settings has been asked."""
    heard: list[str] = []
    answer = Asked.do_GET

    def do_GET(self: Asked) -> None:
        heard.append(self.path)
        answer(self)

    monkeypatch.setattr(Asked, "do_GET", do_GET)
    server: ThreadingHTTPServer = serve()
    settings.RHEON_LOOK_UP = f"http://127.0.0.1:{server.server_address[1]}"
    yield heard
    server.shutdown()


def allow(api: Api, allowed: bool = True) -> None:
    assert api("patch", "home/look-up", {"allowed": allowed})[1]["allowed"] is allowed


def look_up(api: Api, titles: list[Title], **words: object) -> tuple[int, dict[str, Any]]:
    return api("post", "shelf/look-ups", {"titles": [title.pk for title in titles], "kind": "series", **words})


def take(api: Api, work: dict[str, Any]) -> tuple[int, dict[str, Any]]:
    changes = [{"title_id": one["title_id"], "tag": one["tag"], "value": one["new"]} for one in work["changes"]]
    return api("patch", "shelf/tags", {"changes": changes, "work": work["key"]})


def episodes(name: str) -> list[Title]:
    return list(Title.objects.filter(source__name=name, role="episode").order_by("number"))


def test_nothing_is_sent_before_it_is_allowed_and_the_same_words_not_twice(
    shelf: Shelf, api: Api, asked: list[str], settings: Any
) -> None:
    shelf("LANTERN_STREET_S1.iso")
    titles = episodes("Lantern Street S1")
    assert api("get", "home/look-up")[1] == {"service": settings.RHEON_LOOK_UP, "allowed": False}
    status, refused = look_up(api, titles, title="Lantern Street", season=1)
    assert status == 400 and refused["code"] == "look_up_off" and "Nothing was sent." in refused["message"]
    assert asked == [] and not Answer.objects.exists()
    allow(api)
    first = look_up(api, titles, title="Lantern  Street", season=1)[1]
    assert asked == ["/works?kind=series&title=Lantern+Street&season=1"]
    assert look_up(api, titles, title="Lantern Street", season=1)[1] == first and len(asked) == 1
    look_up(api, titles, title="Lantern Street", season=1, again=True)
    look_up(api, titles, title="Lantern Street", season=2)
    assert len(asked) == 3
    Answer.objects.update(at=timezone.now() - KEPT_FOR - timedelta(minutes=1))
    look_up(api, titles, title="Lantern Street", season=2)
    assert len(asked) == 4 and forget_answers() == 1 and Answer.objects.count() == 1
    allow(api, allowed=False)
    assert look_up(api, titles, title="Lantern Street", season=2)[0] == 400
    settings.RHEON_LOOK_UP = ""
    allow(api)
    assert "No look-up service is set." in look_up(api, titles, title="Lantern Street")[1]["message"]
    assert len(asked) == 4


def test_a_season_is_compared_taken_and_given_back(shelf: Shelf, api: Api, asked: list[str]) -> None:
    shelf("LANTERN_STREET_S1.iso")
    allow(api)
    titles = episodes("Lantern Street S1")
    api("patch", "shelf/tags", {"changes": [{"title_id": titles[1].pk, "tag": "title", "value": "Our own name"}]})
    found = look_up(api, titles, title="Lantern Street", season=1)[1]["works"]
    assert [(work["about"], work["agrees"]) for work in found] == [
        ("season 1 · 2011 · Ada Fenwick · 4 episodes", True),
        ("season 1 · 1968 · 7 episodes", False),
        ("season 2 · 2013 · 6 episodes", False),
    ]
    told = {fact["text"]: fact["agrees"] for fact in found[0]["facts"]}
    assert told["4 episodes, as here"] is True and told["the lengths of all of them agree"] is True
    assert found[0]["kept"] == 1
    before = api("get", f"shelf/tags?titles={titles[0].pk}&titles={titles[1].pk}")[1]["titles"]
    rows = take(api, found[0])[1]["titles"]
    said = rows[0]["tags"]["title"]
    assert said["value"] == "The Lamp at Number Nine" and said["sure"] == 1
    assert (
        said["reason"]
        == f"looked up at {api('get', 'home/look-up')[1]['service']}, where it is called “Lantern Street (2011)”"
    )
    assert rows[0]["file_name"] == "Lantern Street - S01E01 - The Lamp at Number Nine"
    assert rows[1]["tags"]["title"] == {
        "value": "Our own name", "reason": "set for this title", "sure": 1, "by_hand": True,
    }  # fmt: skip
    # what was taken is of the work only as long as nobody changes it
    changed = [{"title_id": titles[0].pk, "tag": "title", "value": "The lamp"}]
    row = api("patch", "shelf/tags", {"changes": changed})[1]["titles"][0]
    assert (row["tags"]["title"]["reason"], row["tags"]["year"]["value"]) == ("set for this title", "2011")
    assert "Lantern Street (2011)" in row["tags"]["year"]["reason"]
    back = [{"title_id": one["title_id"], "tag": one["tag"], "value": None} for one in found[0]["changes"]]
    api("patch", "shelf/tags", {"changes": back})
    assert api("get", f"shelf/tags?titles={titles[0].pk}&titles={titles[1].pk}")[1]["titles"] == before


def test_a_film_is_told_from_its_remake_by_its_length(shelf: Shelf, api: Api, asked: list[str]) -> None:
    shelf("MARRAM_NIGHTS")
    allow(api)
    film = Title.objects.get(role="feature")
    found = look_up(api, [film], kind="film", title="Marram Nights")[1]["works"]
    assert [(work["title"], work["agrees"]) for work in found][:2] == [
        ("Marram Nights", True),
        ("Marram Nights", False),
    ]
    assert any("another cut, or another film" in fact["text"] for fact in found[1]["facts"])
    assert {one["tag"]: one["new"] for one in found[0]["changes"]}["director"] == "Ada Fenwick"
    take(api, found[0])
    film.refresh_from_db()
    assert (film.tags().tags.year, film.tags().tags.genre) == (1994, "Drama, Thriller")
    again = look_up(api, [film], kind="film", title="Marram Nights")[1]["works"]
    assert again[0]["changes"] == [] and again[0]["kept"] == 0
    assert look_up(api, [film], kind="film", title="Nobody has made this one")[1]["works"] == []


def test_numbers_that_nobody_knew_are_said_to_be_open_where_lengths_do_not_tell(
    shelf: Shelf, api: Api, asked: list[str]
) -> None:
    shelf("LOCK_KEEPERS_D2")
    allow(api)
    titles = list(Title.objects.filter(role="episode").order_by("number"))
    # this disc is the second one, and the first is not on the Shelf
    some = look_up(api, titles[:2], title="Lock Keepers", season=1)[1]["works"][0]
    assert not some["agrees"] and "look at them" in some["facts"][-1]["text"]
    found = look_up(api, titles, title="Lock Keepers", season=1)[1]["works"][0]
    names = [one["new"] for one in found["changes"] if one["tag"] == "title"]
    assert found["agrees"] and names == ["The Upper Gate", "Paddles and Pawls", "A Boat at Noon", "Closing Time"]


def test_a_service_that_fails_changes_nothing_and_says_so(
    shelf: Shelf, api: Api, asked: list[str], settings: Any
) -> None:
    shelf("MARRAM_NIGHTS")
    allow(api)
    film = Title.objects.get(role="feature")
    settings.RHEON_LOOK_UP += "/elsewhere"
    status, said = look_up(api, [film], kind="film", title="Marram Nights")
    assert status == 502 and "status 404" in said["message"] and "Nothing was changed." in said["message"]
    settings.RHEON_LOOK_UP = "http://127.0.0.1:9"
    assert "can't be reached" in look_up(api, [film], kind="film", title="Marram Nights")[1]["message"]
    changes = [{"title_id": film.pk, "tag": "year", "value": "1994"}]
    for gone in ("1/0", "nothing", "9/9/9", "/"):
        status, said = api("patch", "shelf/tags", {"changes": changes, "work": gone})
        assert status == 422 and "not kept any more" in said["message"]
    film.refresh_from_db()
    assert film.tags_by_hand == {} and film.looked_up is None and not Answer.objects.exists()
