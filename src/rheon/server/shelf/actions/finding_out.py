"""What takes a while to be found out about a title: begun in the background when it is first asked for, and kept."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable
from datetime import timedelta
from typing import Any

from django.core.cache import cache
from django.db import transaction
from django.utils import timezone

from rheon.core.errors import RheonError, Stopped
from rheon.core.media import mark_of

from ..models import Finding, Title
from .cache import material_mark

TRY_AGAIN = timedelta(minutes=2)
ASK_AGAIN_S = 300
log = logging.getLogger("rheon")


def mark_for(what: str, titles: Iterable[Title]) -> str:
    """The same for the same thing about the same material."""
    return f"{what}-{mark_of(tuple(material_mark(title) for title in titles))}"[:40]


def found_out(mark: str, ask: Callable[[], object]) -> dict[str, Any] | None:
    """What was found out, empty where that failed; ``None`` while it is looked for, which is asked for here."""
    found = Finding.objects.filter(mark=mark).first()
    if found is not None and ("failed" not in found.document or found.added > timezone.now() - TRY_AGAIN):
        return {} if "failed" in found.document else found.document
    if cache.add(mark, 1, timeout=ASK_AGAIN_S):
        transaction.on_commit(ask)
    return None


def known(mark: str, look: Callable[[], dict[str, Any]]) -> dict[str, Any]:
    """What is known of some material by its mark, else what looking finds, which is kept. Raises what looking does."""
    found = Finding.objects.filter(mark=mark).first()
    if found is None:
        found, _ = Finding.objects.get_or_create(mark=mark, defaults={"document": look()})
    document: dict[str, Any] = found.document
    return document


def find_out(mark: str, look: Callable[[], dict[str, Any]]) -> None:
    """Look, unless that was done already, and note what was found, or that it failed. Raises ``Stopped``."""
    Finding.objects.filter(mark=mark, document__has_key="failed").delete()
    if Finding.objects.filter(mark=mark).exists():
        return
    try:
        document = look()
    except Stopped:
        raise
    except (RheonError, OSError) as error:
        log.warning("could not find out %s: %s", mark, error)
        document = {"failed": True}
    Finding.objects.get_or_create(mark=mark, defaults={"document": document})
