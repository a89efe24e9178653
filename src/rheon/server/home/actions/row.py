"""Writing to the one row of the installation: what is not named stays, whoever else writes to it meanwhile."""

from __future__ import annotations

from ..models import Home


def change_home(**facts: object) -> None:
    Home.objects.update_or_create(pk=1, defaults=facts)
