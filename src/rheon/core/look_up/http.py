"""A service over HTTP, asked as ``docs/look-up.md`` says.

It gets the words of the question and nothing else: no cookies, no name of a file, and it can't send them on, since
redirections are not followed and no proxy of the environment is used.
"""

from __future__ import annotations

import contextlib
import http.client
import socket
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import urlencode, urlsplit

from ..errors import LookUpFailed
from .answers import read_answer
from .works import Work, WorkQuestion

PATIENCE_S = 10.0
"""For a whole answer, however slowly it comes."""
MOST_BYTES = 4_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class HttpService:
    """``address`` as the settings have it: ``http`` or ``https``, a host, perhaps a port and a path."""

    address: str
    patience_s: float = PATIENCE_S

    def search(self, question: WorkQuestion) -> tuple[Work, ...]:
        """What it knows by such a name, in its own order. Raises ``LookUpFailed``."""
        path = f"{urlsplit(self.address).path.rstrip('/')}/works?{urlencode(list(question.words))}"
        try:
            with self._connected() as connection:
                connection.request("GET", path, headers={"Accept": "application/json", "User-Agent": "Rheon"})
                answer = connection.getresponse()
                if answer.status != http.HTTPStatus.OK:
                    raise LookUpFailed(
                        "The look-up service at {address} answered with status {status}.",
                        address=self.address,
                        status=answer.status,
                    )
                body = answer.read(MOST_BYTES + 1)
        except TimeoutError as error:
            raise LookUpFailed(
                "The look-up service at {address} did not answer within {seconds:g} s.",
                address=self.address,
                seconds=self.patience_s,
            ) from error
        except (OSError, http.client.HTTPException) as error:
            raise LookUpFailed(
                "The look-up service at {address} can't be reached: {why}.", address=self.address, why=_why(error)
            ) from error
        if len(body) > MOST_BYTES:
            raise LookUpFailed("The look-up service answered with more than a list of works can be.")
        return read_answer(body)

    @contextlib.contextmanager
    def _connected(self) -> Iterator[http.client.HTTPConnection]:
        """Cut off when the time is up, whatever it waits for then: a socket's own time begins anew with each byte.

        Raises ``TimeoutError`` in place of whatever came of that.
        """
        split = urlsplit(self.address)
        kind = http.client.HTTPSConnection if split.scheme == "https" else http.client.HTTPConnection
        connection = kind(split.hostname or "", split.port, timeout=self.patience_s)
        late, until = threading.Event(), time.monotonic() + self.patience_s
        cut: threading.Timer | None = None
        try:
            # the socket's own time bounds it; an answer takes its socket along
            connection.connect()
            cut = threading.Timer(max(until - time.monotonic(), 0), _cut, (connection.sock, late))
            cut.start()
            yield connection
        except (OSError, http.client.HTTPException) as error:
            raise (TimeoutError if late.is_set() else error) from error
        finally:
            if cut is not None:
                cut.cancel()
            connection.close()
        if late.is_set():
            raise TimeoutError


def _cut(connected: socket.socket, late: threading.Event) -> None:
    late.set()
    with contextlib.suppress(OSError):
        connected.shutdown(socket.SHUT_RDWR)


def _why(error: Exception) -> str:
    return (getattr(error, "strerror", None) or str(error) or type(error).__name__).rstrip(".")
