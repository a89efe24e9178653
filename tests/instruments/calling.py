"""Rheon from outside: its API called as its page calls it, and what its database says is under way."""

from __future__ import annotations

import json
import urllib.request
from http.cookiejar import CookieJar
from typing import Any

UNDER_WAY = (
    "select count(*) from worklist_job where state in ('waiting', 'running') or state = 'paused' and worker != ''",
    "select count(*) from shelf_source where state in ('waiting', 'reading')",
    "select count(*) from outbox_handover where state in ('copying', 'verifying')",
    "select count(*) from django_tasks_database_dbtaskresult where status in ('READY', 'RUNNING')",
)
"""Each counts what waits or is being done."""


class Caller:
    """Calls the API at ``address`` with the token that its page was given."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._jar = CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self._jar))

    def __call__(self, method: str, path: str, body: object = None) -> Any:
        """The answer's document. Raises ``OSError`` where there is none, ``HTTPError`` among them."""
        if method != "GET" and not self._token:
            self._opener.open(f"{self._address}/shelf", timeout=20).close()
        headers = {"X-CSRFToken": self._token, "Content-Type": "application/json", "Origin": self._address}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(f"{self._address}/api/{path}", data=data, headers=headers, method=method)
        with self._opener.open(request, timeout=30) as answer:
            said = answer.read()
        return json.loads(said) if said else None

    @property
    def _token(self) -> str:
        return next((cookie.value or "" for cookie in self._jar if cookie.name == "csrftoken"), "")
