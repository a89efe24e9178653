"""A stand-in for a service that knows works by their names: a few invented ones, over HTTP (``docs/look-up.md``)."""

from __future__ import annotations

import json
import os
import sys
import threading
import time
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from importlib.resources import files
from typing import Any
from urllib.parse import parse_qs, urlsplit

from rheon.core.look_up.matching import likeness

LEAST_ALIKE = 0.55
CHECK_S = 1.0


def known_works() -> list[dict[str, Any]]:
    works: list[dict[str, Any]] = json.loads((files(__package__) / "works.json").read_text())["works"]
    return works


def found(asked: dict[str, str]) -> list[dict[str, Any]]:
    """What is called much like what was asked for, the likest first; whether it is the right one is not said."""
    kind, title = asked.get("kind"), asked.get("title", "")
    near: Iterator[tuple[float, dict[str, Any]]] = (
        (likeness(work["title"], title), work) for work in known_works() if kind in (None, work["kind"])
    )
    return [work for alike, work in sorted(near, key=lambda one: -one[0]) if alike >= LEAST_ALIKE]


class Asked(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        split = urlsplit(self.path)
        if split.path != "/works":
            self.send_error(404)
            return
        asked = {name: values[0] for name, values in parse_qs(split.query).items()}
        body = json.dumps({"works": found(asked)}, ensure_ascii=False).encode()
        self.send_response(200)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *arguments: object) -> None:
        """Nothing: what people look up is theirs."""


def serve(port: int = 0) -> ThreadingHTTPServer:
    """The stand-in, answering in the background at a port of this machine (0: any that is free)."""
    server = ThreadingHTTPServer(("127.0.0.1", port), Asked)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server


def main() -> None:
    """Answers as long as whoever started it is there."""
    parent = os.getppid()
    try:
        server = serve(int(sys.argv[1]))
    except OSError as error:
        sys.exit(f"The stand-in that knows works could not be started: {error.strerror}.")
    while os.getppid() == parent:
        time.sleep(CHECK_S)
    server.shutdown()


if __name__ == "__main__":
    main()
