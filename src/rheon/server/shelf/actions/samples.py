"""Measuring how many bits a title needs, so that expectations rest on it."""

from __future__ import annotations

import logging
from typing import Any

from rheon.core.analysis import fingerprint, sample_pictures
from rheon.core.errors import RheonError, Stopped
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump

from ..models import Finding, Title

log = logging.getLogger("rheon")


def sample_title(title_id: int) -> None:
    """Sample a title once; what is known of the same material is taken over. Where it fails, its expectations stay
    guesses. Raises ``Stopped``.
    """
    title = Title.objects.filter(pk=title_id, samples__isnull=True, samples_failed=False).first()
    if title is None or title.outline.get("fault"):
        return
    try:
        document = _samples(title.readable_title())
    except Stopped:
        raise
    except (RheonError, OSError) as error:
        log.warning("could not sample title %s: %s", title_id, error)
        document = None
    facts = {"samples_failed": True} if document is None else {"samples": document}
    Title.objects.filter(pk=title_id).update(**facts)


def samples_mark(title: CoreTitle) -> str:
    """The same for the same material, wherever it lies. Raises ``OSError``."""
    return f"samples-{fingerprint(title)}"[:40]


def _samples(title: CoreTitle) -> dict[str, Any] | None:
    mark = samples_mark(title)
    known = Finding.objects.filter(mark=mark).first()
    if known is None:
        measured = sample_pictures(title)
        if measured is None:
            return None
        known, _ = Finding.objects.get_or_create(mark=mark, defaults={"document": dump(measured)})
    document: dict[str, Any] = known.document
    return document
