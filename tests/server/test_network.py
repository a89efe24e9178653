"""What TVs of the home network find: nothing until it is shown, then a device's files and no others."""

from __future__ import annotations

import socket
from collections.abc import Awaitable, Callable
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from asgiref.sync import async_to_sync, sync_to_async
from async_upnp_client.aiohttp import AiohttpRequester
from async_upnp_client.client_factory import UpnpFactory
from async_upnp_client.exceptions import UpnpError
from async_upnp_client.profiles.dlna import DmsDevice
from async_upnp_client.search import async_search
from django.test import AsyncClient, Client

from rheon.server.api import ranges
from rheon.server.household.models import Device
from rheon.server.outbox.actions import network
from rheon.server.outbox.models import MediaServer, NetworkFolder, Output
from rheon.server.outbox.network import announcing, directory
from rheon.server.outbox.network.announcing import Announcing

from .test_pick_up import whole

KIND = "urn:schemas-upnp-org:device:MediaServer:1"
DATA = bytes(range(256)) * 4000
Api = Callable[..., Any]


def made_for(device: Device | None, path: Path) -> Output:
    path.write_bytes(DATA)
    return Output.objects.create(
        title_name=path.stem, device_names=[], device_ids=[device.pk] if device else [], summary="", path=str(path),
        size_bytes=len(DATA), duration_s=3725.5, making_s=1, checking_s=1, expected={}, checks=[],
    )  # fmt: skip


@pytest.fixture
def tv(db: None, settings: Any, household: list[int]) -> Device:
    device = Device.objects.get(pk=household[0])
    folder = Path(settings.RHEON_OUTPUT_FOLDER)
    for name in ("Episode 10.mkv", "Episode 2 <&>.mp4", "Only the sound.m4a"):
        made_for(device, folder / name)
    made_for(None, folder / "For another.mp4")
    (folder / "Episode 2 <&>.en.srt").write_text("1\n00:00:01,000 --> 00:00:02,000\nHello\n", encoding="utf-8")
    (folder / "Episode 2 <&>.jpg").write_bytes(b"\xff\xd8\xff")
    return device


@pytest.fixture
def here(settings: Any) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        settings.RHEON_MEDIA_SERVER_PORT = probe.getsockname()[1]
    settings.RHEON_PAIRING_HOST = "127.0.0.1"


async def found(wait_s: int = 1) -> set[str]:
    """Where media servers of this test say that they are, as a TV asks for them."""
    places: set[str] = set()

    async def take(headers: Any) -> None:
        places.add(str(headers.get("location")))

    await async_search(take, timeout=wait_s, search_target=KIND, source=("127.0.0.1", 0))
    return places


async def opened(settings: Any) -> DmsDevice:
    address = f"http://127.0.0.1:{settings.RHEON_MEDIA_SERVER_PORT}/device.xml"
    return DmsDevice(await UpnpFactory(AiohttpRequester()).async_create_device(address), None)


def while_followed(act: Callable[[Announcing], Awaitable[None]]) -> None:
    async def run() -> None:
        follows = Announcing()
        try:
            await act(follows)
        finally:
            await sync_to_async(NetworkFolder.objects.all().delete)()
            await follows.follow()

    async_to_sync(run)()


@pytest.mark.django_db(transaction=True)
def test_a_tv_finds_what_is_shown_and_only_as_long_as_it_is(tv: Device, here: None, settings: Any) -> None:
    async def act(follows: Announcing) -> None:
        assert not await follows.follow()
        mine = f"http://127.0.0.1:{settings.RHEON_MEDIA_SERVER_PORT}/device.xml"
        assert mine not in await found()
        await sync_to_async(network.show)(tv)
        assert await follows.follow()
        assert mine in await found()
        server = await opened(settings)
        assert server.name == network.server_name()
        (folder,) = (await server.async_browse_direct_children("0")).result
        assert folder.title == f"For {tv.name}" and folder.child_count == "3"
        items = (await server.async_browse_direct_children(folder.id)).result
        assert [item.title for item in items] == ["Episode 2 <&>", "Episode 10", "Only the sound"]
        assert items[0].res[0].duration == "1:02:05.500" and items[0].res[0].size == str(len(DATA))
        kinds = [str(resource.protocol_info).split(":")[2] for item in items for resource in item.res]
        assert kinds == ["video/mp4", "text/srt", "video/x-matroska", "audio/mp4"]
        assert items[0].upnp_class == "object.item.videoItem" and items[2].upnp_class.startswith(
            "object.item.audioItem"
        )
        page = await server.async_browse_direct_children(folder.id, starting_index=1, requested_count=1)
        assert [item.title for item in page.result] == ["Episode 10"] and page.total_matches == 3
        assert (await server.async_browse_metadata(items[1].id)).title == "Episode 10"
        for unknown in ("nothing", "99", f"{folder.id}/99", f"{folder.id}/x"):
            with pytest.raises(UpnpError):
                await server.async_browse_metadata(unknown)
        assert await sync_to_async(lambda: NetworkFolder.objects.get().seen)() is not None
        await sync_to_async(network.hide)(tv)
        assert not await follows.follow()
        assert mine not in await found()

    while_followed(act)


@pytest.mark.django_db(transaction=True)
def test_a_port_in_use_is_told_and_tried_again(
    tv: Device, here: None, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(announcing, "TRY_AGAIN_S", 0.0)

    async def act(follows: Announcing) -> None:
        await sync_to_async(network.show)(tv)
        with socket.socket() as other:
            other.bind(("127.0.0.1", settings.RHEON_MEDIA_SERVER_PORT))
            other.listen()
            await follows.follow()
            problem = await sync_to_async(lambda: MediaServer.objects.get().problem)()
            assert str(settings.RHEON_MEDIA_SERVER_PORT) in problem
        await follows.follow()
        assert not await sync_to_async(lambda: MediaServer.objects.get().problem)()
        assert (await opened(settings)).name

    while_followed(act)


@pytest.mark.django_db(transaction=True)
def test_the_files_are_given_in_ranges_by_their_addresses_alone(tv: Device, settings: Any, api: Api) -> None:
    assert api("put", f"outbox/network/{tv.pk}")[0] == 204
    folder = NetworkFolder.objects.get()
    outputs = {Path(one.path).name: one for one in Output.objects.all()}
    settings.ROOT_URLCONF, settings.ALLOWED_HOSTS = "rheon.server.config.device_urls", ["*"]
    film, beside = outputs["Episode 2 <&>.mp4"], "Episode 2 <&>.en.srt"

    async def get(output: Output, name: str, token: str = folder.token, **headers: str) -> Any:
        return await AsyncClient().get(f"/n/{token}/{output.pk}/{quote(name)}", headers=headers)

    async def act() -> None:
        part = await get(film, Path(film.path).name, range="bytes=100-199")
        assert part.status_code == 206 and await whole(part) == DATA[100:200]
        assert part["Content-Type"] == "video/mp4" and "DLNA.ORG_OP=01" in part["contentFeatures.dlna.org"]
        assert part["transferMode.dlna.org"] == "Streaming"
        assert (await whole(await get(film, beside))).startswith(b"1\n00:00:01")
        assert await whole(await get(outputs["Episode 10.mkv"], "Episode 10.mkv")) == DATA
        for refused in (
            await get(outputs["For another.mp4"], "For another.mp4"),
            await get(film, "Episode 10.mkv"),
            await get(film, Path(film.path).name, token="x" * len(folder.token)),
            await get(film, Path(film.path).name, token="x", range="bytes=0-1"),
        ):
            assert refused.status_code == 404

    async_to_sync(act)()
    assert NetworkFolder.objects.get().fetched_by == "127.0.0.1"
    assert Client().get("/api/outbox", headers={"host": "192.0.2.7:8421"}).status_code == 404


@pytest.mark.django_db(transaction=True)
def test_taken_back_it_is_broken_off_and_the_old_address_stays_shut(
    tv: Device, settings: Any, api: Api, monkeypatch: pytest.MonkeyPatch
) -> None:
    network.show(tv)
    old = NetworkFolder.objects.get().token
    settings.ROOT_URLCONF, settings.ALLOWED_HOSTS = "rheon.server.config.device_urls", ["*"]
    monkeypatch.setattr(ranges, "ASK_EVERY_S", 0.0)
    monkeypatch.setattr(ranges, "CHUNK_BYTES", 1000)
    output = Output.objects.get(title_name="Episode 10")
    address = f"/n/{old}/{output.pk}/{quote(Path(output.path).name)}"

    async def act() -> None:
        answer: Any = await AsyncClient().get(address)
        given = aiter(answer.streaming_content)
        assert len(await anext(given)) == 1000
        await sync_to_async(network.hide)(tv)
        with pytest.raises(ConnectionAbortedError):
            await anext(given)
        await sync_to_async(network.show)(tv)
        assert (await AsyncClient().get(address)).status_code == 404

    async_to_sync(act)()
    assert NetworkFolder.objects.get().token != old


@pytest.mark.django_db(transaction=True)
def test_a_thousand_files_are_told_in_pages(tv: Device, settings: Any) -> None:
    folder = network.show(tv)
    path = Path(settings.RHEON_OUTPUT_FOLDER) / "Episode 10.mkv"
    like = Output.objects.get(path=str(path))
    for number in range(1000):
        like.pk, like.title_name = None, f"Copy {number}"
        like.save()
    page = directory.browse(str(tv.pk), "http://192.0.2.7/", children=True, start=900, most=0)
    assert page is not None and (page.count, page.total) == (103, 1003)
    page = directory.browse(str(tv.pk), "http://192.0.2.7/", children=True, start=0, most=0)
    assert page is not None and page.count == directory.MOST_AT_ONCE
    assert folder.token in page.text


def test_the_board_says_under_which_name_it_is_found(tv: Device, api: Api) -> None:
    assert api("get", "outbox/handovers")[1]["devices"][0]["network"] is None
    assert api("put", f"outbox/network/{tv.pk}")[0] == 204
    _, said = api("get", "outbox/handovers")
    assert said["server_name"].startswith("Rheon on ") and not said["server_problem"]
    assert said["devices"][0]["network"]["seen"] is None
    assert api("delete", f"outbox/network/{tv.pk}")[0] == 204
    assert api("get", "outbox/handovers")[1]["devices"][0]["network"] is None
