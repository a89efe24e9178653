"""What calls may weigh and ask for; what lies in folders; and what a hundred open pages cost."""

from __future__ import annotations

import asyncio
import json
import os
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from asgiref.sync import sync_to_async
from django.core.asgi import get_asgi_application
from django.db import OperationalError
from django.test import AsyncClient, Client
from PIL import Image

from rheon.core.naming.names import safe_stem
from rheon.core.system import set_fence
from rheon.server.api.limits import MOST_BODY_BYTES, BoundedCalls
from rheon.server.api.ranges import Span, parse_range
from rheon.server.live import feed as feed_module
from rheon.server.live.feed import LiveFeed
from rheon.server.outbox.models import Output
from rheon.server.shelf.actions import cache
from rheon.server.shelf.actions.reading import read_now
from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.models import Source, Title
from rheon.server.worklist.actions.add import add_copy
from rheon.server.worklist.actions.run import run_next
from rheon.server.worklist.models import Job

Api = Callable[..., Any]
LONE = "\ud83d"


@pytest.fixture
def media_folder(settings: Any, tmp_path: Path) -> Path:
    folder = tmp_path / "media"
    folder.mkdir()
    settings.RHEON_MEDIA_FOLDERS = [folder.resolve()]
    return folder


def read(path: str) -> Source:
    source = add_source(path)
    read_now(source.pk)
    source.refresh_from_db()
    return source


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("get", f"shelf/titles/{10**25}", None),
        ("get", f"shelf/titles/1/moments/{'9' * 400}.jpg", None),
        ("get", f"bench/plans/1/1/moments/{'9' * 400}/before.jpg", None),
        ("get", "shelf/folders?path=%00", None),
        ("get", f"shelf/folders?path=/{'n' * 300}", None),
        ("post", "shelf/sources", {"path": "/a\0b"}),
        ("post", "shelf/sources", {"path": "/" + "n" * 300}),
        ("post", "worklist/jobs", {"cells": [{"title_id": 2**70, "target_id": 1}]}),
        ("post", "worklist/copies", {"source_id": 2**63}),
        ("post", "bench/picks", {"title_ids": [2**64], "picked": True}),
        ("post", "bench/targets", {"device_ids": [2**64]}),
        ("patch", "household/devices/1", {"member_id": 2**64}),
        ("patch", "bench/plans/1/1", {"pins": {LONE: "x"}}),
        ("get", f"bench/cells?titles={'9' * 400}", None),
        ("get", f"shelf/sources?after={2**70}", None),
    ],
)
def test_no_call_is_answered_by_a_failure_of_the_server(db: None, api: Api, method: str, path: str, body: Any) -> None:
    call = getattr(Client(raise_request_exception=False), method)
    more = {"data": json.dumps(body), "content_type": "application/json"} if body is not None else {}
    assert 400 <= call(f"/api/{path}", **more).status_code < 500


def test_deep_brackets_and_bytes_that_are_no_text_are_refused(db: None, client: Client) -> None:
    for body in (b"[" * 100_000, b'{"path": "\xff"}', b'{"path": ' * 50_000):
        assert client.post("/api/shelf/sources", body, content_type="application/json").status_code == 400


@pytest.mark.parametrize(
    ("header", "found"),
    [
        ("bytes=5-2", None),
        ("bytes=2-5", Span(first=2, last=5)),
        ("bytes=-3", Span(first=7, last=9)),
        ("bytes=4-", Span(first=4, last=9)),
        (f"bytes={'9' * 5000}-", None),
        ("bytes=20-30", Span(first=20, last=9)),
    ],
)
def test_ranges_are_read_within_bounds(header: str, found: Span | None) -> None:
    assert parse_range(header, 10) == found


async def asked(
    headers: list[tuple[bytes, bytes]], parts: list[bytes], path: str = "/api/shelf/sources"
) -> tuple[int, int]:
    """(status, how many parts of the body were taken)."""
    taken, answered = 0, 0

    async def receive() -> dict[str, Any]:
        nonlocal taken
        taken += 1
        return {"type": "http.request", "body": parts[taken - 1], "more_body": taken < len(parts)}

    async def send(message: Any) -> None:
        nonlocal answered
        answered = message.get("status", answered)

    scope = {"type": "http", "method": "POST", "path": path, "raw_path": path.encode(), "query_string": b""}
    scope |= {"headers": [(b"host", b"127.0.0.1"), *headers], "http_version": "1.1", "scheme": "http", "root_path": ""}
    await BoundedCalls(get_asgi_application())(
        {**scope, "server": ("127.0.0.1", 80), "client": ("127.0.0.1", 9), "asgi": {}}, receive, send
    )
    return answered, taken


async def test_a_body_that_is_too_large_is_refused_before_it_is_read() -> None:
    told = [(b"content-length", str(MOST_BODY_BYTES + 1).encode())]
    assert await asked(told, [b"x" * MOST_BODY_BYTES] * 3) == (413, 0)
    assert await asked([(b"content-length", b"9" * 5000)], [b""]) == (413, 0)
    untold = await asked([(b"content-type", b"application/json")], [b"x" * (MOST_BODY_BYTES // 2)] * 300)
    assert untold[0] in (0, 400, 413) and untold[1] <= 4


async def test_other_sites_are_refused_whatever_they_ask_for() -> None:
    for site, status in ((b"cross-site", 403), (b"same-site", 403)):
        assert (await asked([(b"sec-fetch-site", site)], [b""]))[0] == status


def test_names_that_are_no_text_are_shown_and_work(db: None, api: Api, media_folder: Path, media: Path) -> None:
    name = os.fsdecode(b"caf\xe9.mp4")
    (media_folder / name).hardlink_to(media / "camera" / "Kite day.mp4")
    (entry,) = api("get", "shelf/folders")[1]["entries"]
    assert entry["name"] == "caf\ufffd.mp4"
    assert api("get", f"shelf/folders?path={quote(entry['path'])}")[0] == 404
    assert api("post", "shelf/sources", {"path": entry["path"]})[0] == 202
    source = Source.objects.get()
    read_now(source.pk)
    (shown,) = api("get", "shelf/sources")[1]
    assert (shown["state"], shown["titles"][0]["name"]) == ("ready", "Kite day")
    title = Title.objects.get()
    assert api("get", f"shelf/titles/{title.pk}")[0] == 200
    assert title.readable_title().data.path == str(media_folder / name)  # type: ignore[union-attr]


def test_links_and_odd_things_in_a_folder_are_told_and_harm_nobody(
    db: None, api: Api, media_folder: Path, media: Path
) -> None:
    folder = media_folder / "films"
    folder.mkdir()
    (folder / "good.mp4").hardlink_to(media / "camera" / "Kite day.mp4")
    os.mkfifo(folder / "pipe.mkv")
    os.mkfifo(folder / "good.srt")
    (folder / "loop.mkv").symlink_to("loop.mkv")
    (folder / "out.mkv").symlink_to("/etc/hostname")
    (folder / "text.m4v").write_text("only words\n")
    (folder / "cover.jpg").symlink_to("/etc/hostname")
    with (folder / "good.en.srt").open("wb") as large:
        large.truncate(3 << 30)
    source = read(str(folder))
    assert [title.name for title in source.titles.all()] == ["good"]
    core = source.titles.get().core_title()
    assert (core.subtitles, core.artwork) == ((), None)
    problems = next(one for one in api("get", "shelf/sources")[1] if one["id"] == source.pk)["problems"]
    told = " ".join(problem["message"] for problem in problems)
    assert all(name in told for name in ("pipe.mkv", "loop.mkv", "out.mkv", "text.m4v"))
    assert [entry["name"] for entry in api("get", f"shelf/folders?path={folder}")[1]["entries"]] == [
        "good.mp4",
        "text.m4v",
    ]


@pytest.mark.parametrize("deep", ["a/b/c/d/secret.bin", "VIDEO_TS/secret.bin"])
def test_a_copy_of_a_disc_never_takes_what_lies_outside(
    db: None, media_folder: Path, media: Path, settings: Any, tmp_path: Path, deep: str
) -> None:
    secret = tmp_path / "secret"
    secret.write_text("not for the copy")
    disc = media_folder / "DISC"
    (disc / "VIDEO_TS").mkdir(parents=True)
    for path in (media / "MARRAM_NIGHTS" / "VIDEO_TS").iterdir():
        (disc / "VIDEO_TS" / path.name).hardlink_to(path)
    source = read(str(disc))
    (disc / deep).parent.mkdir(parents=True, exist_ok=True)
    (disc / deep).symlink_to(secret)
    add_copy(source)
    run_next()
    assert (Job.objects.get().state, Job.objects.get().error_code) == ("failed", "outside_folders")
    assert list(settings.RHEON_OUTPUT_FOLDER.iterdir()) == []


def test_a_file_that_became_a_link_after_the_scan_is_not_opened(
    db: None, api: Api, media_folder: Path, media: Path
) -> None:
    path = media_folder / "a.mp4"
    path.hardlink_to(media / "camera" / "Kite day.mp4")
    title = read(str(path)).titles.get()
    path.unlink()
    path.symlink_to("/etc/hostname")
    assert Client().get(f"/api/shelf/titles/{title.pk}/frames/0.jpg").status_code == 404
    set_fence(None)


def test_one_title_that_cannot_be_planned_leaves_the_others_their_cells(
    shelf: Callable[[str], Source], household: list[int], api: Api
) -> None:
    source = shelf("MARRAM_NIGHTS")
    good, bad = source.titles.get(number=1), source.titles.get(number=2)
    bad.document = {**bad.document, "video": {**bad.document["video"], "width": 0, "height": 0}}
    bad.save()
    status, cells = api("get", f"bench/cells?titles={good.pk},{bad.pk}")
    assert (status, {cell["verdict"] for cell in cells if cell["title_id"] == bad.pk} - {"cannot"}) == (200, set())
    assert {cell["verdict"] for cell in cells if cell["title_id"] == good.pk} != {"cannot"}


def test_a_huge_cover_is_refused_and_the_same_picture_is_made_once(
    db: None, media_folder: Path, media: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (media_folder / "a.mp4").hardlink_to(media / "camera" / "Kite day.mp4")
    Image.new("1", (9000, 9000)).save(media_folder / "a.png")
    title = read(str(media_folder / "a.mp4")).titles.get()
    assert Client().get(f"/api/shelf/titles/{title.pk}/cover.jpg?own=1").status_code == 404
    Image.new("RGB", (900, 900)).save(media_folder / "a.png")
    assert len(Client().get(f"/api/shelf/titles/{title.pk}/cover.jpg?own=1").content) > 300
    made: list[Path] = []

    def make(target: Path) -> None:
        made.append(target)
        target.write_bytes(b"picture")

    together = [threading.Thread(target=cache.cached, args=("frames", "one.jpg", make)) for _ in range(12)]
    for thread in together:
        thread.start()
    for thread in together:
        thread.join()
    assert (len(made), cache._making) == (1, {})


def test_no_name_of_an_output_hides_its_ending() -> None:
    assert safe_stem("film\u202egpj.4pm") == "filmgpj.4pm"
    assert safe_stem("\u2066a\u2069\u200f") == "a"


@pytest.mark.django_db(transaction=True)
async def test_many_open_pages_cost_one_look_and_each_gets_the_newest(monkeypatch: pytest.MonkeyPatch) -> None:
    looked = 0
    real = feed_module.snapshot  # type: ignore[attr-defined]

    def counted() -> object:
        nonlocal looked
        looked += 1
        return real()

    monkeypatch.setattr(feed_module, "snapshot", counted)
    feed, threads = LiveFeed(), threading.active_count()

    async def page(count: int) -> list[bytes]:
        async with feed.open() as opened:
            return [event for _ in range(count) if (event := await opened.next(10)) is not None]

    pages = [asyncio.create_task(page(2)) for _ in range(60)]
    await asyncio.sleep(0.5)
    assert threading.active_count() <= threads + 2
    await sync_to_async(Source.objects.create)(path="/x", name="x")
    events = await asyncio.gather(*pages)
    assert len({event for got in events for event in got}) == 2 and looked <= 4
    assert feed._looking is None


@pytest.mark.django_db(transaction=True)
async def test_too_many_pages_are_told_so(async_client: AsyncClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(feed_module, "MOST_PAGES", 0)
    assert (await async_client.get("/api/live")).status_code == 503


def test_the_shelf_comes_in_pages_and_unchanged_ones_are_not_sent_again(db: None, client: Client) -> None:
    for number in range(230):
        source = Source.objects.create(path=f"/s{number}", name=f"s{number}", title_count=5, state="ready")
        Title.objects.bulk_create(
            Title(source=source, key=str(n), number=n, name=f"t{n}", duration_s=9, role="extra", document={})
            for n in range(5)
        )
    first = client.get("/api/shelf/sources")
    assert len(first.json()) == 200 and all(len(source["titles"]) == 5 for source in first.json())
    rest = client.get(f"/api/shelf/sources?after={first.json()[-1]['id']}")
    assert [source["name"] for source in rest.json()] == [f"s{n}" for n in range(200, 230)]
    assert client.get(f"/api/shelf/sources?after={rest.json()[-1]['id']}").json() == []
    same = {"If-None-Match": first["ETag"]}
    assert client.get("/api/shelf/sources", headers=same).status_code == 304
    Source.objects.filter(name="s3").update(at_title=2)
    assert client.get("/api/shelf/sources", headers=same).status_code == 200


def test_the_outbox_comes_in_pages_of_outlines(db: None, api: Api) -> None:
    facts = {"title_name": "x", "summary": "", "making_s": 1, "checking_s": 1, "expected": {}, "device_names": []}
    Output.objects.bulk_create(
        Output(path=f"/none/{n}", size_bytes=2, checks=[], held=n % 2 == 0, **facts) for n in range(700)
    )
    first = api("get", "outbox")[1]
    assert (first["count"], first["size_bytes"], len(first["outputs"])) == (700, 1400, 500)
    rest = api("get", f"outbox?after={first['outputs'][-1]['id']}")[1]["outputs"]
    assert len({entry["id"] for entry in [*first["outputs"], *rest]}) == 700
    assert {(entry["held"], entry["present"]) for entry in rest} == {(True, False), (False, False)}


@pytest.mark.parametrize(
    ("said", "status", "code"), [("database or disk is full", 507, "state_full"), ("database is locked", 503, "busy")]
)
def test_a_database_that_refuses_is_told_in_a_sentence(
    db: None, api: Api, monkeypatch: pytest.MonkeyPatch, said: str, status: int, code: str
) -> None:
    def refused(_: object) -> None:
        raise OperationalError(said)

    monkeypatch.setattr("rheon.server.shelf.queries.sources_page", refused)
    answered, document = api("get", "shelf/sources")
    assert (answered, document["code"]) == (status, code) and len(document["message"]) > 30
