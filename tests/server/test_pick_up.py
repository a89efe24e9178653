"""Files that are picked up on the home network: by whoever knows the code, those files alone, as long as it is open."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from asgiref.sync import sync_to_async
from django.test import AsyncClient, Client
from django.utils import timezone

from rheon.server.api import ranges
from rheon.server.codes import MOST_WRONG
from rheon.server.household.models import Device
from rheon.server.outbox.actions import pick_up
from rheon.server.outbox.models import Output, PickUp

Api = Callable[..., Any]
DATA = bytes(range(256)) * 4000


@pytest.fixture
def films(db: None, settings: Any) -> list[Output]:
    made = []
    for name in ("Ünï & <b>.mp4", "Second.mkv", "Kept at home.mp4"):
        path = Path(settings.RHEON_OUTPUT_FOLDER) / name
        path.write_bytes(DATA)
        made.append(
            Output.objects.create(
                title_name=path.stem, device_names=[], device_ids=[], summary="MP4 · H.264", path=str(path),
                size_bytes=len(DATA), making_s=1, checking_s=1, expected={}, checks=[],
            )
        )  # fmt: skip
    return made


@pytest.fixture
def network(settings: Any) -> dict[str, Any]:
    """As a device of the network calls: another process, with addresses of its own."""
    settings.ROOT_URLCONF = "rheon.server.config.device_urls"
    settings.ALLOWED_HOSTS = ["*"]
    return {"headers": {"host": "192.0.2.7:8421"}}


async def whole(response: Any) -> bytes:
    return b"".join([chunk async for chunk in response]) if response.streaming else response.content


def test_the_page_lists_what_was_opened_and_nothing_else(films: list[Output], network: Any) -> None:
    phone = Client(**network)
    row = pick_up.open_pick_up(films[:2], None)
    assert len(row.code) == 8 and row.code.isdigit()
    page = phone.get(f"/p/{row.code}/")
    said = page.content.decode()
    assert page.status_code == 200 and page.headers["Cache-Control"] == "no-store"
    assert "Ünï &amp; &lt;b&gt;.mp4" in said and "Second.mkv" in said and "Kept" not in said
    assert said.count('class="act play"') == 1, "no browser plays Matroska for sure"
    assert phone.get("/", {"code": f"{row.code[:4]} {row.code[4:]}"}).headers["Location"] == f"/p/{row.code}/"
    listed = phone.get(f"/p/{row.code}/files.m3u8").content.decode().splitlines()
    assert listed[0] == "#EXTM3U" and listed[2].startswith(f"http://192.0.2.7:8421/p/{row.code}/")
    assert phone.get("/pick-up.js").status_code == 200
    for path in (f"/p/{row.code}/../../api/outbox", "/api/outbox", "/static/x", f"/p/{row.code}/{films[2].pk}/x.mp4"):
        assert phone.get(path).status_code == 404


@pytest.mark.django_db(transaction=True)
async def test_a_download_that_broke_off_goes_on_and_its_end_is_noted(films: list[Output], network: Any) -> None:
    row = await sync_to_async(pick_up.open_pick_up)(films[:2], None)
    phone, address = AsyncClient(), f"/p/{row.code}/{films[0].pk}/film.mp4"
    first = await phone.get(f"{address}?download", headers={"Range": "bytes=0-99999"})
    assert (first.status_code, await whole(first)) == (206, DATA[:100_000])
    assert (
        first.headers["Content-Type"] == "video/mp4"
        and "filename*=UTF-8''%C3%9Cn" in first.headers["Content-Disposition"]
    )
    assert (await PickUp.objects.aget()).fetched == {}
    rest = {"Range": "bytes=100000-", "If-Range": first.headers["ETag"]}
    second = await phone.get(address, headers=rest)
    assert (second.status_code, await whole(second)) == (206, DATA[100_000:])
    assert list((await PickUp.objects.aget()).fetched) == [str(films[0].pk)]
    Path(films[0].path).write_bytes(DATA[::-1])
    third = await phone.get(address, headers=rest)
    assert (third.status_code, await whole(third)) == (200, DATA[::-1]), "never the rest of another file"


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("end", ["never opened", "shut", "time", "another code", "not among them"])
async def test_a_stranger_gets_not_a_byte(films: list[Output], network: Any, end: str) -> None:
    row = await sync_to_async(pick_up.open_pick_up)(films[:2], None)
    code, output = row.code, films[0].pk
    if end == "never opened":
        await PickUp.objects.all().adelete()
    elif end == "shut":
        await sync_to_async(pick_up.close_pick_up)()
    elif end == "time":
        await PickUp.objects.aupdate(open_until=timezone.now() - timedelta(seconds=1))
    elif end == "another code":
        code = f"{(int(code) + 1) % 10**8:08}"
    else:
        output = films[2].pk
    for headers in ({}, {"Range": "bytes=0-0"}, {"Range": "bytes=500-"}, {"Range": "bytes=-1"}):
        for call in (AsyncClient().get, AsyncClient().head):
            answer = await call(f"/p/{code}/{output}/film.mp4", headers=headers)
            assert answer.status_code == 404 and DATA[:50] not in await whole(answer)
    assert (await AsyncClient().post(f"/p/{code}/{output}/report", {}, "application/json")).status_code == 404


@pytest.mark.django_db(transaction=True)
async def test_what_is_shut_is_broken_off_in_the_middle(
    films: list[Output], network: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(ranges, "ASK_EVERY_S", -1.0)
    row = await sync_to_async(pick_up.open_pick_up)(films[:1], None)
    answer: Any = await AsyncClient().get(f"/p/{row.code}/{films[0].pk}/film.mp4")
    got = b""
    with pytest.raises(ConnectionAbortedError):
        async for chunk in answer:
            got += chunk
            await sync_to_async(pick_up.close_pick_up)()
    assert 0 < len(got) < len(DATA) and (await PickUp.objects.aget()).fetched == {}


def test_ten_wrong_codes_shut_it_and_that_is_said(films: list[Output], api: Api, settings: Any) -> None:
    row = pick_up.open_pick_up(films[:1], None)
    settings.ROOT_URLCONF = "rheon.server.config.device_urls"
    settings.ALLOWED_HOSTS = ["*"]
    for tried in range(MOST_WRONG):
        assert Client().get(f"/p/{tried:08}/").status_code == 404
    assert Client().get(f"/p/{row.code}/").status_code == 404
    settings.ROOT_URLCONF = "rheon.server.config.urls"
    found = api("get", "outbox/pick-up")[1]
    assert not found["open"] and "wrong codes" in found["problem"]


def test_the_outbox_opens_and_shuts_it(films: list[Output], api: Api, household: list[int]) -> None:
    device = Device.objects.all()[0]
    asked = {"outputs": [film.pk for film in films[:2]], "device_id": device.pk}
    opened = api("put", "outbox/pick-up", asked)[1]
    assert opened["open"] and opened["device_name"] == device.name and opened["qr"].startswith("M")
    assert [file["file_name"] for file in opened["files"]] == ["Second.mkv", "Ünï & <b>.mp4"]
    Path(films[0].path).unlink()
    status, said = api("put", "outbox/pick-up", asked)
    assert status == 404 and "not where it was made" in said["message"]
    assert api("delete", "outbox/pick-up")[1]["open"] is False


def test_what_a_device_says_of_a_file_makes_its_profile_surer(
    films: list[Output], household: list[int], network: Any, media: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    device = Device.objects.all()[0]
    told: list[object] = []
    monkeypatch.setattr(pick_up, "report", lambda output, of, trouble: told.append((output.pk, of.pk, trouble)))
    row = pick_up.open_pick_up(films[:1], device)
    address = f"/p/{row.code}/{films[0].pk}/report"
    assert "Did it play right?" in Client(**network).get(f"/p/{row.code}/").content.decode()
    said = Client(**network).post(address, {"trouble": "silent"}, content_type="application/json")
    assert said.json() == {"taken": True} and told == [(films[0].pk, device.pk, "silent")]
    for body in (b"", b"[]", b'{"trouble": "melts"}', b"[" * 900):
        assert Client(**network).post(address, body, content_type="application/json").status_code == 400
    pick_up.open_pick_up(films[:1], None)
    row = pick_up.pick_up()
    said = Client(**network).post(f"/p/{row.code}/{films[0].pk}/report", {"trouble": None}, "application/json")
    assert said.json() == {"taken": False} and len(told) == 1
