"""When a source has been read, what matters on it is picked."""

from __future__ import annotations

from django.dispatch import receiver

from rheon.server.shelf.models import Source
from rheon.server.shelf.signals import source_read

from .actions.picks import propose


@receiver(source_read)
def pick_proposed(sender: object, source: Source, **kwargs: object) -> None:
    propose(source)
