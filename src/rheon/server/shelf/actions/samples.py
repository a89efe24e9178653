"""Measuring how many bits a title needs, so that expectations rest on it."""

from __future__ import annotations

import logging

from rheon.core.analysis import sampled_bits_per_pixel
from rheon.core.errors import RheonError

from ..models import Title

log = logging.getLogger("rheon")


def sample_title(title_id: int) -> None:
    """Sample a title once; where that fails, its expectations stay guesses."""
    title = Title.objects.filter(pk=title_id, sampled_bits_per_pixel=None).first()
    if title is None or title.outline.get("fault"):
        return
    try:
        measured = sampled_bits_per_pixel(title.readable_title())
    except RheonError as error:
        log.warning("could not sample title %s: %s", title_id, error.message)
        return
    Title.objects.filter(pk=title_id).update(sampled_bits_per_pixel=measured)
