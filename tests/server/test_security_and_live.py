from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from django.conf import settings as django_settings
from django.test import AsyncClient, Client

from rheon.server.household.models import Device
from rheon.server.household.wishes import languages
from rheon.server.shelf.models import Source


def test_changes_need_the_page_s_token(db: None) -> None:
    strict = Client(enforce_csrf_checks=True)
    body = {"profile_id": "sound-only"}
    refused = strict.post("/api/household/devices", body, content_type="application/json")
    assert (refused.status_code, Device.objects.count()) == (403, 0)
    strict.get("/shelf")
    token = strict.cookies["csrftoken"].value
    accepted = strict.post(
        "/api/household/devices", body, content_type="application/json", headers={"X-CSRFToken": token}
    )
    assert (accepted.status_code, Device.objects.count()) == (201, 1)


def test_every_answer_carries_a_policy_without_inline_scripts(client: Client, db: None) -> None:
    for path in ("/shelf", "/api/household", "/api/nothing"):
        policy = client.get(path).headers["Content-Security-Policy"]
        scripts = next(part for part in policy.split(";") if "script-src" in part)
        assert scripts.split() == ["script-src", "'self'"]
    assert "<script>" not in (django_settings.WEB_BUILD / "index.html").read_text()


def test_other_hosts_are_refused(client: Client, db: None) -> None:
    assert client.get("/api/household", headers={"Host": "elsewhere.example"}).status_code == 400


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("get", "shelf/titles/99", None, 404),
        ("post", "shelf/sources", {}, 400),
        ("post", "household/devices", {"profile_id": "nobody"}, 422),
        ("patch", "bench/plans/1/1", {"balance": "huge"}, 400),
    ],
)
def test_bad_calls_are_answered_with_a_code_and_a_sentence(
    db: None, api: Callable[..., Any], method: str, path: str, body: object, status: int
) -> None:
    answered, said = api(method, path, body)
    assert (answered, set(said)) == (status, {"code", "message"})
    assert len(said["message"]) > 15


def test_what_nobody_foresaw_stays_out_of_sight(
    db: None, api: Callable[..., Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken() -> None:
        raise RuntimeError("secret detail")

    monkeypatch.setattr("rheon.server.shelf.queries.sources_document", broken)
    status, said = api("get", "shelf/sources")
    assert (status, said["code"]) == (500, "unforeseen")
    assert "secret" not in json.dumps(said)


def test_the_household_keeps_languages_and_devices(db: None, api: Callable[..., Any]) -> None:
    api("patch", "household", {"languages": ["Spanish!", "es", "en", "es"]})
    assert languages() == ("es", "en")
    device = api("post", "household/devices", {"profile_id": "tablet-small-2013", "name": "  Back-seat tablet "})[1]
    assert (device["name"], device["profile"]["summary"]) == ("Back-seat tablet", "720p, FAT32")
    assert {fact["topic"] for fact in device["abilities"]} == {
        "Screen",
        "Files",
        "Picture",
        "Sound",
        "Subtitles",
        "Limits",
    }
    assert api("delete", f"household/devices/{device['id']}")[0] == 204


@pytest.mark.django_db(transaction=True)
async def test_an_open_page_is_told_of_every_change(async_client: AsyncClient) -> None:
    response = await async_client.get("/api/live")
    events = aiter(response.streaming_content)  # type: ignore[attr-defined]
    first = json.loads((await anext(events)).decode().partition("data: ")[2])
    assert (first["counts"]["sources"], first["running"], first["total"]["count"]) == (0, [], 0)
    await Source.objects.acreate(path="/x", name="x")
    second = json.loads((await anext(events)).decode().partition("data: ")[2])
    assert second["counts"]["sources"] == 1
    assert second["marks"]["shelf"] != first["marks"]["shelf"]
    await events.aclose()
