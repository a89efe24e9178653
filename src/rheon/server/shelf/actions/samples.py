"""Measuring how many bits a title needs, so that expectations rest on it."""

from __future__ import annotations

import logging

from rheon.core.analysis import sample_pictures
from rheon.core.errors import RheonError, Stopped
from rheon.core.media.documents import dump

from ..models import Title

log = logging.getLogger("rheon")


def sample_title(title_id: int) -> None:
    """Sample a title once; where that fails, its expectations stay guesses. Raises ``Stopped``."""
    title = Title.objects.filter(pk=title_id, samples__isnull=True, samples_failed=False).first()
    if title is None or title.outline.get("fault"):
        return
    try:
        measured = sample_pictures(title.readable_title())
    except Stopped:
        raise
    except RheonError as error:
        log.warning("could not sample title %s: %s", title_id, error.message)
        measured = None
    facts = {"samples_failed": True} if measured is None else {"samples": dump(measured)}
    Title.objects.filter(pk=title_id).update(**facts)
