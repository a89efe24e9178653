"""The shell looks at the demo's titles once for all tests."""

from __future__ import annotations

import pytest
from tests.instruments.looked import look_once


@pytest.fixture(autouse=True)
def looking(monkeypatch: pytest.MonkeyPatch) -> None:
    choosing = "rheon.cli.choosing"
    look_once(monkeypatch, f"{choosing}.survey_title", f"{choosing}.sample_pictures")
    # a scan takes its own from the core when it is asked to look closer
    look_once(monkeypatch, "rheon.core.analysis.survey_title")
