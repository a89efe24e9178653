"""Measuring how many bits a title needs, so that expectations rest on it."""

from __future__ import annotations

import logging

from rheon.core.analysis import fingerprint, sample_pictures
from rheon.core.errors import RheonError, Stopped
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import dump

from ..models import Title
from .finding_out import known

log = logging.getLogger("rheon")


def sample_title(title_id: int) -> None:
    """Sample a title once; what is known of the same material is taken over. Where it fails, its expectations stay
    guesses. Raises ``Stopped``.
    """
    title = Title.objects.filter(pk=title_id, samples__isnull=True, samples_failed=False).first()
    if title is None or title.outline.get("fault"):
        return
    try:
        core = title.readable_title()
        document = known(samples_mark(core), lambda: dump(sample_pictures(core)) or {})
    except Stopped:
        raise
    except (RheonError, OSError) as error:
        log.warning("could not sample title %s: %s", title_id, error)
        document = {}
    # empty where there is no picture
    facts = {"samples": document} if document else {"samples_failed": True}
    Title.objects.filter(pk=title_id).update(**facts)


def samples_mark(title: CoreTitle) -> str:
    """The same for the same material, wherever it lies. Raises ``OSError``."""
    return f"samples-{fingerprint(title)}"[:40]
