"""The installation itself: who is let in and by which name, what it was set up with, and whether it is well."""

from __future__ import annotations

import re
import shutil
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from asgiref.sync import sync_to_async
from asgiref.testing import ApplicationCommunicator
from django.contrib.auth.hashers import PBKDF2PasswordHasher
from django.test import AsyncClient, Client
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st
from rest_framework.views import APIView
from uvicorn.middleware.proxy_headers import ProxyHeadersMiddleware

from rheon.core.errors import PassphraseRefused, TooManyTries
from rheon.server.api import router
from rheon.server.api.hosts import KnownHosts, UnderPrefix
from rheon.server.api.page import page as page_view
from rheon.server.bench.models import Target
from rheon.server.home.actions import setting_up
from rheon.server.home.actions.passphrase import MOST_OF_ONE, set_passphrase, sign_in, take_passphrase_away
from rheon.server.home.models import Attempt, Home
from rheon.server.home.queries import home, is_locked, output_folders
from rheon.server.shelf.actions.film_folders import look_through
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.models import FilmFolder, Source
from rheon.server.shelf.tasks import look_through_task
from rheon.server.upkeep.hints import renew
from rheon.server.worklist.actions.add import add_jobs

WORDS = "river and tide"


@pytest.fixture
def locked(db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    # how long a guess takes is the hasher's matter; what is asked here is who is let in
    monkeypatch.setattr(PBKDF2PasswordHasher, "iterations", 1000)
    set_passphrase(WORDS)


def let_in(client: Client, words: str = WORDS) -> int:
    return client.post("/api/session", {"passphrase": words}, content_type="application/json").status_code


def test_nothing_is_told_before_the_passphrase_was_given(locked: None, client: Client) -> None:
    """Every address that there is, so that a new one is not forgotten."""
    open_ones = {"session", "health"}
    for pattern in router.urlpatterns:
        path = re.sub(r"<\w+:(\w+)>", lambda found: "x" if "profile" in found[1] else "1", str(pattern.pattern))
        view = getattr(pattern.callback, "view_class", None)
        verbs = view.http_method_names if view and issubclass(view, APIView) else ["get"]
        for verb in set(verbs) & {"get", "post", "put", "patch", "delete"} if path not in open_ones else ():
            assert getattr(client, verb)(f"/api/{path}").status_code == 401, (verb, path)
    assert client.get("/api/home").json()["code"] == "signed_out"
    assert client.get("/shelf").status_code == 200  # the page itself, which asks for it
    assert client.get("/api/health").json()["healthy"] is True
    assert client.get("/api/session").json() == {"has_passphrase": True, "signed_in": False}


async def test_nor_is_the_stream_of_what_happens(transactional_db: None) -> None:
    await sync_to_async(set_passphrase)(WORDS)
    assert (await AsyncClient(headers={"host": "127.0.0.1"}).get("/api/live")).status_code == 401


def test_the_passphrase_opens_and_another_one_shuts_again(locked: None) -> None:
    here, there = Client(), Client()
    assert (let_in(here, "river and tides"), let_in(here), let_in(there)) == (403, 204, 204)
    assert here.get("/api/home").json()["signed_in_elsewhere"] == 1
    assert here.cookies["rheon-8420"]["httponly"] and here.cookies["rheon-8420"]["samesite"] == "Strict"
    assert here.delete("/api/session/others").status_code == 204
    assert (here.get("/api/home").status_code, there.get("/api/home").status_code) == (200, 401)
    assert let_in(there) == 204
    assert there.delete("/api/session").status_code == 204
    assert (here.get("/api/home").status_code, there.get("/api/home").status_code) == (200, 401)
    set_passphrase("another one")
    assert here.get("/api/home").status_code == 401
    assert (let_in(here), let_in(here, "another one")) == (403, 204)
    take_passphrase_away()
    assert there.get("/api/home").status_code == 200
    stored = Home.objects.get().__dict__
    assert not any(word in str(stored) for word in ("another one", WORDS))


def test_guessing_is_slow_from_one_address_and_lets_others_in(locked: None) -> None:
    session = Client().session
    for _ in range(MOST_OF_ONE):
        with pytest.raises(PassphraseRefused):
            sign_in(session, "guess", "2001:db8::1")
    for neighbour in ("2001:db8::1", "2001:db8::ffff"):  # one household has all of a /64
        with pytest.raises(TooManyTries):
            sign_in(session, WORDS, neighbour)
    sign_in(session, WORDS, "192.0.2.7")
    Attempt.objects.update(at=timezone.now() - timedelta(minutes=16))
    sign_in(session, WORDS, "2001:db8::1")
    client = Client()
    assert {let_in(client, "no") for _ in range(MOST_OF_ONE)} == {403}
    assert let_in(client) == 429


def test_a_short_passphrase_is_refused(db: None) -> None:
    with pytest.raises(PassphraseRefused, match="shorter"):
        set_passphrase("  tide  ")
    assert not Home.objects.exists()


async def answered(application: Any, host: str, path: str = "/x", **scope: Any) -> tuple[int, dict[str, Any]]:
    """The status that a call by this name gets, and the scope that arrived inside."""
    arrived: dict[str, Any] = {}

    async def inner(scope: Any, receive: Any, send: Any) -> None:
        arrived.update(scope)
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body"})

    said = {"type": "http", "path": path, "headers": [(b"host", host.encode("latin-1"))], "method": "GET", **scope}
    call = ApplicationCommunicator(application(inner), said)
    await call.send_input({"type": "http.request"})
    return (await call.receive_output())["status"], arrived


@pytest.mark.parametrize(
    ("host", "alone", "network"),
    [
        ("127.0.0.1:8420", 200, 200), ("localhost", 200, 200), ("[::1]:8420", 200, 200),
        ("rheon.home.arpa", 200, 200), ("a.films.example:80", 200, 200), ("films.example", 400, 400),
        ("192.0.2.4:8420", 400, 200), ("[2001:db8::4]:8420", 400, 200), ("evil.example", 400, 400),
        ("127.0.0.1.evil.example", 400, 400), ("rheon.home.arpa.evil.example", 400, 400), ("", 400, 400),
        ("192.0.2.4evil", 400, 400), ("[::1", 400, 400), ("rheon.home.arpa@evil", 400, 400), ("\xff", 400, 400),
    ],
)  # fmt: skip
async def test_only_its_own_names_are_answered_to(host: str, alone: int, network: int) -> None:
    names = ("rheon.home.arpa", ".films.example")
    for on_network, status in ((False, alone), (True, network)):
        found = await answered(lambda app, on=on_network: KnownHosts(app, names=names, on_network=on), host)
        assert found[0] == status


@given(name=st.from_regex(r"[a-z][a-z0-9-]{0,20}(\.[a-z][a-z0-9-]{0,10}){1,3}", fullmatch=True))
async def test_no_name_that_nobody_listed_is_answered_to(name: str) -> None:
    status, _ = await answered(lambda app: KnownHosts(app, names=("rheon.home.arpa",), on_network=True), name)
    assert status == (200 if name == "rheon.home.arpa" else 400)


async def test_under_a_path_it_makes_no_difference_whether_a_proxy_takes_it_off() -> None:
    for path in ("/films/api/home", "/api/home"):
        _, arrived = await answered(lambda app: UnderPrefix(app, prefix="/films"), "localhost", path)
        assert (arrived["root_path"], arrived["path"]) == ("/films", "/films/api/home")
    _, arrived = await answered(lambda app: UnderPrefix(app, prefix="/films"), "localhost", "/filmstrip")
    assert arrived["path"] == "/films/filmstrip"


async def test_only_a_named_proxy_is_believed_about_who_calls() -> None:
    headers = [(b"host", b"localhost"), (b"x-forwarded-for", b"198.51.100.9"), (b"x-forwarded-proto", b"https")]
    for client, seen in ((("10.0.0.1", 1), ("198.51.100.9", "https")), (("10.0.0.2", 1), ("10.0.0.2", "http"))):
        _, arrived = await answered(
            lambda app: ProxyHeadersMiddleware(app, trusted_hosts=["10.0.0.1"]),
            "localhost", headers=headers, client=client, scheme="http",
        )  # fmt: skip
        assert (arrived["client"][0], arrived["scheme"]) == seen


def test_the_page_is_written_for_the_path_that_it_lies_under(rf: Any, settings: Any) -> None:
    settings.RHEON_PREFIX = "/films/rheon"
    said = page_view(rf.get("/shelf")).content.decode()
    addresses = re.findall(r'(?:src|href)="([^"]*)"', said)
    assert len(addresses) > 3 and all(address.startswith("/films/rheon/") for address in addresses)
    assert '<meta name="rheon-prefix" content="/films/rheon" />' in said
    settings.RHEON_PREFIX = ""
    assert all(
        one.startswith("/") for one in re.findall(r'(?:src|href)="([^"]*)"', page_view(rf.get("/")).content.decode())
    )


@pytest.fixture
def films(settings: Any, tmp_path: Path, media: Path) -> Path:
    """A folder of one's own with a film and a series in it, inside what may be read."""
    folder = tmp_path / "mine"
    shutil.copytree(media / "Tide Watch", folder / "Tide Watch")
    shutil.copy(media / "camera" / "Kite day.mp4", folder)
    settings.RHEON_MEDIA_FOLDERS = [folder]
    return folder


def test_everything_in_a_folder_of_films_comes_onto_the_shelf_once(
    db: None, api: Callable[..., Any], films: Path
) -> None:
    proposed = api("get", "shelf/film-folders")[1]
    assert [(p["path"], p["found"], p["more"]) for p in proposed["proposals"]] == [(str(films), 2, False)]
    assert api("post", "shelf/film-folders", {"path": str(films)})[0] == 202
    assert api("get", "shelf/film-folders")[1]["folders"][0]["looking"] is True
    row = FilmFolder.objects.get()
    assert look_through(row) == look_through(row) == 2
    assert [source.name for source in Source.objects.all()] == ["Kite day", "Tide Watch"]
    said = api("get", "shelf/film-folders")[1]
    assert (said["folders"][0]["found"], said["folders"][0]["looking"], said["proposals"]) == (2, False, [])
    assert api("delete", f"shelf/film-folders/{row.pk}")[0] == 204
    assert Source.objects.count() == 2
    for path, status in (("/etc", 403), (str(films / "nowhere"), 404), ("", 400), (str(films / "a\0b"), 400)):
        assert api("post", "shelf/film-folders", {"path": path})[0] == status, path


def test_a_folder_whose_going_through_was_lost_is_gone_through_again(db: None, settings: Any, films: Path) -> None:
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["quick", "convert"]}}
    row = FilmFolder.objects.create(path=str(films))
    assert renew() == 1  # the hint that nobody gave
    assert renew() == 0
    look_through_task.call(row.pk)
    FilmFolder.objects.all().delete()
    look_through_task.call(row.pk)  # forgotten meanwhile: nothing to do


def test_files_go_where_the_page_says_and_older_ones_stay_in_reach(
    db: None, api: Callable[..., Any], films: Path, shelf: Callable[[str], Source], household: list[int], settings: Any
) -> None:
    (films / "old").mkdir()
    chosen = films / "Made here"
    assert api("get", "home")[1]["output"]["path"] == str(settings.RHEON_OUTPUT_FOLDER)
    said = api("patch", "home", {"output": str(chosen)})[1]
    assert (said["output"]["path"], said["output"]["exists"], said["output"]["writable"]) == (str(chosen), True, True)
    assert output_folders() == (settings.RHEON_OUTPUT_FOLDER, chosen)
    source = Source.objects.create(path=str(films / "Kite day.mp4"), name="Kite day")
    read_now(source.pk)
    title = source.titles.get()
    (job,) = add_jobs([(title, Target.objects.get(device__name="Sanderling 2"))])
    assert Path(job.folder) == chosen
    for path, status in (("/etc/rheon", 403), (str(films / "no" / "where"), 409), (str(films / "Kite day.mp4"), 409)):
        assert api("patch", "home", {"output": path})[0] == status
    assert output_folders()[-1] == chosen
    api("patch", "home", {"output": str(settings.RHEON_OUTPUT_FOLDER)})
    assert output_folders()[-1] == settings.RHEON_OUTPUT_FOLDER
    assert chosen in output_folders()


def test_the_first_page_is_shown_until_somebody_has_seen_to_it(db: None, api: Callable[..., Any]) -> None:
    assert api("get", "home")[1]["set_up"] is False
    assert api("patch", "home", {"set_up": True})[1]["set_up"] is True
    assert {line["name"] for line in api("get", "home")[1]["settings"]} > {"state", "media", "port"}


async def test_an_open_page_is_left_soon_after_it_was_signed_out(
    transactional_db: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("rheon.server.live.views.LOOK_AGAIN_S", 0.0)
    monkeypatch.setattr("rheon.server.live.views.KEEP_ALIVE_S", 0.1)
    opened = await AsyncClient(headers={"host": "127.0.0.1"}).get("/api/live")
    events = aiter(opened)  # type: ignore[arg-type, var-annotated]
    assert b"event: live" in await anext(events)
    await sync_to_async(set_passphrase)(WORDS)
    rest = [event async for event in events]
    assert len(rest) < 5


def test_what_is_set_in_one_place_leaves_what_is_set_in_another_meanwhile(
    db: None, tmp_path: Path, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.RHEON_MEDIA_FOLDERS = [tmp_path]
    (tmp_path / "new").mkdir()
    before = home()
    set_passphrase("a few words in a row")
    monkeypatch.setattr(setting_up, "home", lambda: before)
    setting_up.choose_output(str(tmp_path / "new"))
    assert is_locked() and home().outputs == [str(tmp_path / "new")]
