"""By which names this installation may be called, and under which path it lies."""

from __future__ import annotations

import ipaddress
import socket
from collections.abc import Iterable

from rheon.core.catalogue import later

from .limits import Application, Receive, Scope, Send, refuse

LOCAL = frozenset({"localhost", "127.0.0.1", "[::1]"})
OTHER_NAME = {
    "code": "refused",
    "message": later("Rheon is not called like that. Add the name to “hosts” in its settings."),
}


class KnownHosts:
    """In front of the application: a name that is not ours is refused with 400.

    Only names can be pointed elsewhere by somebody else, so on a network every plain address is let in.
    """

    def __init__(self, application: Application, *, names: Iterable[str], on_network: bool) -> None:
        self._application = application
        own = socket.gethostname().lower()
        self._names = LOCAL | {name.lower() for name in names} | ({own, f"{own}.local"} if on_network else set())
        self._on_network = on_network

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and not self._is_ours(scope):
            await refuse(send, 400, OTHER_NAME)
            return
        await self._application(scope, receive, send)

    def _is_ours(self, scope: Scope) -> bool:
        said = next((value for name, value in scope["headers"] if name.lower() == b"host"), b"").decode("latin-1")
        host = (said[: said.index("]") + 1] if said.startswith("[") and "]" in said else said.split(":")[0]).lower()
        if host in self._names or any(host.endswith(name) for name in self._names if name.startswith(".")):
            return True
        return self._on_network and _is_address(host.strip("[]"))


class UnderPrefix:
    """Behind a proxy, the installation lies under a path; whether the proxy takes it off makes no difference."""

    def __init__(self, application: Application, *, prefix: str) -> None:
        self._application, self._prefix = application, prefix

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and self._prefix:
            path = scope["path"]
            inside = path == self._prefix or path.startswith(f"{self._prefix}/")
            scope = {**scope, "root_path": self._prefix, "path": path if inside else self._prefix + path}
        await self._application(scope, receive, send)


def _is_address(text: str) -> bool:
    try:
        ipaddress.ip_address(text)
    except ValueError:
        return False
    return True
