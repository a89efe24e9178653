"""A stand-in for a TV on the home network: it looks for media servers, goes through their folders, and fetches files.

``python -m rheon.demo.tv`` lists what it finds; ``--fetch FOLDER`` keeps the files there.
"""

from __future__ import annotations

import argparse
import asyncio
import urllib.request
from collections.abc import AsyncIterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import unquote

from async_upnp_client.aiohttp import AiohttpRequester
from async_upnp_client.client_factory import UpnpFactory
from async_upnp_client.profiles.dlna import DmsDevice
from async_upnp_client.search import async_search

from rheon.core.system import own_address

SERVERS = "urn:schemas-upnp-org:device:MediaServer:1"
LOOK_FOR_S = 2
AT_ONCE = 50
ROOT = "0"


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A file as a TV lists it: its folder, what it is called there, and where it is fetched."""

    server: str
    folder: str
    title: str
    address: str


async def servers(host: str, wait_s: int = LOOK_FOR_S) -> list[str]:
    """Where the media servers are that answer to a search from the address ``host`` of this machine."""
    places: dict[str, None] = {}

    async def take(headers: Any) -> None:
        places[str(headers.get("location"))] = None

    await async_search(take, timeout=wait_s, search_target=SERVERS, source=(host, 0))
    return list(places)


async def files(description: str) -> list[Found]:
    """Everything in every folder of the server with this description."""
    server = DmsDevice(await UpnpFactory(AiohttpRequester()).async_create_device(description), None)
    return [
        Found(server=server.name, folder=folder.title, title=item.title, address=item.res[0].uri)
        async for folder in _inside(server, ROOT)
        async for item in _inside(server, folder.id)
    ]


async def _inside(server: DmsDevice, folder_id: str) -> AsyncIterator[Any]:
    start, total = 0, 1
    while start < total:
        page = await server.async_browse_direct_children(folder_id, starting_index=start, requested_count=AT_ONCE)
        for one in page.result:
            yield one
        start, total = start + max(1, page.number_returned), page.total_matches


def fetch(found: Found, folder: Path) -> Path:
    """The file, whole, under the name that stands in its address."""
    path = folder / Path(unquote(found.address)).name
    urllib.request.urlretrieve(found.address, path)
    return path


def main() -> None:
    parser = argparse.ArgumentParser(description="A TV that looks for films on the home network.")
    parser.add_argument("--host", default=own_address(), help="the address of this machine that it looks from")
    parser.add_argument("--fetch", type=Path, help="a folder that the files are kept in")
    wanted = parser.parse_args()
    for place in asyncio.run(servers(wanted.host)):
        for found in asyncio.run(files(place)):
            print(f"{found.server} · {found.folder} · {found.title}")
            if wanted.fetch:
                print(f"  fetched: {fetch(found, wanted.fetch)}")


if __name__ == "__main__":
    main()
