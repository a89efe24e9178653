"""Checking what a call asks for."""

from __future__ import annotations

from typing import Any

from rest_framework.serializers import Serializer


def asked(kind: type[Serializer], data: Any) -> dict[str, Any]:
    """What was asked for, checked. Raises ``ValidationError``, which becomes a sentence for each bad field."""
    wanted = kind(data=data)
    wanted.is_valid(raise_exception=True)
    return dict(wanted.validated_data)
