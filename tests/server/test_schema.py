"""Calls made up from the OpenAPI document, sensible and not: none is answered by a failure of the server."""

from __future__ import annotations

import json
import os
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings

from rheon.server.shelf.models import Source

CALLS = int(os.environ.get("CALLS", "4"))
"""How many are made up for each address; ``make fuzz`` asks for many more."""
schema = schemathesis.openapi.from_path(Path(__file__).parents[2] / "docs" / "openapi.json")
OPERATIONS = [operation.ok() for operation in schema.get_all_operations()]  # type: ignore[union-attr]


@pytest.fixture
def filled(shelf: Callable[[str], Source], household: list[int]) -> None:
    """Rows that made-up numbers may meet."""
    shelf("camera/Kite day.mp4")


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: operation.label)
def test_no_made_up_call_is_answered_by_a_failure(operation: Any, filled: None) -> None:
    client = Client(raise_request_exception=False)
    seen: Counter[int] = Counter()

    @settings(
        max_examples=CALLS,
        deadline=None,
        database=None,
        phases=[Phase.explicit, Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def call(case: Any) -> None:
        body = case.body if isinstance(case.body, dict | list | str | int | float | bool | None) else {}
        more = {"data": json.dumps(body), "content_type": "application/json"} if operation.body else {}
        address = case.formatted_path.removeprefix("http://localhost")
        answer = getattr(client, case.method.lower())(address, query_params=case.query or None, **more)
        seen[answer.status_code] += 1
        assert answer.status_code < 500, (case.method, address, case.query, body)

    call()
    assert seen
