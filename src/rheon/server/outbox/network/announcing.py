"""Announcing the media server to the home network, as long as something is shown to it."""

from __future__ import annotations

import logging
import time

from asgiref.sync import sync_to_async
from async_upnp_client.exceptions import UpnpError
from async_upnp_client.server import UpnpServer
from async_upnp_client.ssdp import SSDP_IP_V4, SSDP_PORT, get_ssdp_socket
from django.conf import settings

from rheon.core.catalogue import say
from rheon.server.codes import devices_address, serving_host

from ..actions.network import media_server, note_problem, server_name
from ..models import NetworkFolder
from .media_server import make_server

log = logging.getLogger("rheon")
TRY_AGAIN_S = 15.0
SEARCHED_AT = (SSDP_IP_V4, SSDP_PORT)


class Announcing:
    """Follows what is wanted; a machine that gets another address is announced under that."""

    def __init__(self) -> None:
        self._running: UpnpServer | None = None
        self._host = ""
        self._again_s = 0.0

    async def follow(self) -> bool:
        """Begin, go on or end; says whether anything is shown."""
        wanted = await sync_to_async(NetworkFolder.objects.exists)()
        host = serving_host() if wanted else ""
        if self._running is not None and (not wanted or host != self._host):
            await self._end()
        if wanted and self._running is None and time.monotonic() >= self._again_s:
            await self._begin(host)
        return wanted

    async def _begin(self, host: str) -> None:
        if ":" in host:
            await self._fail(say("TVs are found over IPv4 only: let pairing_host be such an address."))
            return
        row = await sync_to_async(media_server)()
        port = settings.RHEON_MEDIA_SERVER_PORT
        made = make_server(row.uid, server_name(), host, port, devices_address())
        try:
            # a server that listens and can't announce itself would keep its port
            get_ssdp_socket((host, 0), SEARCHED_AT)[0].close()
            await made.async_start()
        except (OSError, UpnpError):
            log.warning("the media server could not start at %s:%d", host, port, exc_info=True)
            await self._fail(
                say("TVs can’t find it now: port {port} is in use, or this machine is in no network.", port=port)
            )
            return
        self._running, self._host = made, host
        await sync_to_async(note_problem)("")

    async def _fail(self, problem: str) -> None:
        self._again_s = time.monotonic() + TRY_AGAIN_S
        await sync_to_async(note_problem)(problem)

    async def _end(self) -> None:
        running, self._running = self._running, None
        if running is not None:
            await running.async_stop()
