"""Where the page is served: whether that is free, and how this machine itself reaches it."""

from __future__ import annotations

import socket

from rheon.core.errors import PortTaken
from rheon.settings import Settings


def check_port(settings: Settings) -> None:
    """Raises ``PortTaken``."""
    kind = socket.AF_INET6 if ":" in settings.listen else socket.AF_INET
    with socket.socket(kind, socket.SOCK_STREAM) as tried:
        tried.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            tried.bind((settings.listen, settings.port))
        except OSError as error:
            raise PortTaken(
                "Rheon can't listen at {listen}, port {port}: {reason}.",
                listen=settings.listen,
                port=settings.port,
                reason=error.strerror,
            ) from error


def own_host(settings: Settings) -> str:
    """The address at which this machine reaches a page that is served at any address."""
    return {"0.0.0.0": "127.0.0.1", "::": "::1"}.get(settings.listen, settings.listen)
