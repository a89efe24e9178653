"""The server with its own database; background work is run at once unless a test says otherwise."""

from __future__ import annotations

import functools
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings as django_settings
from django.test import Client
from tests.instruments.looked import look_once

from rheon.core.media import Source as CoreSource
from rheon.core.sources import read_source
from rheon.demo.models import device, models
from rheon.server.household.actions.devices import add_device, add_own_device
from rheon.server.household.actions.people import change_household
from rheon.server.household.models import Device
from rheon.server.household.requests import HouseholdChange
from rheon.server.shelf.actions import reading
from rheon.server.shelf.actions.sources import add_source
from rheon.server.shelf.folders import fence_in
from rheon.server.shelf.models import Source

from .published import check_answer


@pytest.fixture(autouse=True)
def places(settings: Any, tmp_path: Path) -> None:
    settings.TASKS = {
        "default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend", "QUEUES": ["quick", "convert", "copy"]}
    }
    settings.RHEON_OUTPUT_FOLDER = tmp_path / "output"
    settings.RHEON_CACHE = tmp_path / "cache"
    settings.RHEON_HARDWARE = None
    settings.RHEON_VOLUMES = []
    settings.RHEON_OUTPUT_FOLDER.mkdir()


@pytest.fixture(autouse=True)
def looking(monkeypatch: pytest.MonkeyPatch) -> None:
    actions = "rheon.server.shelf.actions"
    look_once(monkeypatch, f"{actions}.surveys.survey_title", f"{actions}.samples.sample_pictures")


@pytest.fixture
def shelf(db: None, media: Path, monkeypatch: pytest.MonkeyPatch) -> Callable[[str], Source]:
    """Put a demo source on the shelf and read it; what is on it is read once for all tests of a process."""

    def put(name: str) -> Source:
        source = add_source(str(media / name))
        with monkeypatch.context() as patch:
            patch.setattr(reading, "read_source", lambda path, progress: _read(path))
            reading.read_now(source.pk)
        source.refresh_from_db()
        return source

    return put


@pytest.fixture
def own_media(settings: Any, tmp_path: Path) -> Path:
    """A media folder that the test may change."""
    settings.RHEON_MEDIA_FOLDERS = [tmp_path / "media"]
    (tmp_path / "media").mkdir()
    return tmp_path / "media"


@functools.cache
def _read(path: Path) -> CoreSource:
    return read_source(path)


def read(path: Path) -> Source:
    """Put a source of the test's own media on the shelf and read it."""
    source = add_source(str(path))
    reading.read_now(source.pk)
    return Source.objects.get(path=str(path))


@pytest.fixture
def household(db: None) -> list[int]:
    """Four devices by their numbers, which are those of their targets too."""
    change_household(HouseholdChange(languages=["en"]))
    devices = [own(name) for name in ("wren-6", "heron-8", "sanderling-2", "sound-only")]
    assert [device.target.pk for device in devices] == [device.pk for device in devices]
    return [device.pk for device in devices]


def own(name: str) -> Device:
    """A device of the household: one of the scenario's models, or of the catalogue."""
    return add_own_device(device(name).model_dump_json()) if name in models() else add_device(name)


@pytest.fixture
def api(client: Client) -> Callable[..., Any]:
    """Call the API as the page does; gives (status, document), which is as published."""

    def call(method: str, path: str, body: object = None) -> tuple[int, Any]:
        more = {"data": body, "content_type": "application/json"} if body is not None else {}
        response = getattr(client, method)(f"/api/{path}", **more)
        document = response.json() if response.content else None
        check_answer(method, f"/api/{path}", response.status_code, document)
        return response.status_code, document

    assert str(django_settings.DATABASES["default"]["ENGINE"]).endswith("sqlite3")
    return call


@pytest.fixture(autouse=True)
def fenced(unfenced: None) -> None:
    """As every process of the server: nothing is opened outside the folders that the settings name."""
    fence_in()
