"""The shell looks at the demo's titles once for all tests."""

from __future__ import annotations

import pytest
from tests.instruments.looked import look_once


@pytest.fixture(autouse=True)
def looking(monkeypatch: pytest.MonkeyPatch) -> None:
    look_once(monkeypatch, "rheon.cli.choosing", "rheon.core.analysis")
