from __future__ import annotations

from django.apps import AppConfig
from django.db.models.signals import post_migrate


class HouseholdConfig(AppConfig):
    name = "rheon.server.household"
    label = "household"

    def ready(self) -> None:
        post_migrate.connect(_renew, sender=self)


def _renew(**_: object) -> None:
    """A newer Rheon brings a newer catalogue: when the database is brought forward, its devices are too."""
    from .actions.renewing import renew_devices  # noqa: PLC0415 - models are there only now

    renew_devices()
