"""``manage.py serve_devices``: while a page for devices is open or files are shown to the network, listen for them."""

from __future__ import annotations

import asyncio
import contextlib
from typing import Any

import uvicorn
from asgiref.sync import sync_to_async
from django.conf import settings
from django.core.asgi import get_asgi_application
from django.core.management import BaseCommand

from rheon.core.engine import limit_memory
from rheon.core.system import use_scratch
from rheon.server.api.limits import BoundedCalls
from rheon.server.household.actions.pairing import pairing
from rheon.server.outbox.actions.pick_up import pick_up
from rheon.server.outbox.network.announcing import Announcing

LOOK_EVERY_S = 0.5


class Command(BaseCommand):
    help = "Listen for the pages for devices and for TVs, only while one is open or files are shown to them."

    def handle(self, *args: Any, **options: Any) -> None:
        use_scratch(settings.RHEON_SCRATCH)
        limit_memory(settings.RHEON_ENGINE_MEMORY_BYTES)
        with contextlib.suppress(KeyboardInterrupt):
            asyncio.run(self._watch())

    async def _watch(self) -> None:
        """Nothing listens while both pages are shut and nothing is shown to the network."""
        announcing = Announcing()
        running: tuple[uvicorn.Server, asyncio.Task[None]] | None = None
        while True:
            opened = await sync_to_async(lambda: pairing().is_open or pick_up().is_open)()
            wanted = await announcing.follow() or opened
            if wanted and running is None:
                server = uvicorn.Server(self._config())
                running = server, asyncio.create_task(server.serve())
            elif running is not None and (not wanted or running[1].done()):
                running[0].should_exit = True
                await running[1]
                running = None
            await asyncio.sleep(LOOK_EVERY_S)

    def _config(self) -> uvicorn.Config:
        return uvicorn.Config(
            BoundedCalls(get_asgi_application()),
            host=settings.RHEON_PAIRING_HOST,
            port=settings.RHEON_PAIRING_PORT,
            log_level="warning",
            timeout_graceful_shutdown=1,
        )
