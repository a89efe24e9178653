"""A newer Rheon brings a newer catalogue: when the database is brought forward, its devices are too."""

from __future__ import annotations

from django.apps import apps
from django.db.models.signals import post_migrate

from .actions.renewing import renew_devices


def _renew(**_: object) -> None:
    renew_devices()


post_migrate.connect(_renew, sender=apps.get_app_config("household"), dispatch_uid="renew devices")
