"""Fields that many calls share, with their bounds: what is out of them is refused with a sentence."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

MOST_ID = 2**53 - 1
"""The largest whole number that a browser holds exactly."""


class IdField(serializers.IntegerField):
    """The number of a row."""

    def __init__(self, **options: Any) -> None:
        super().__init__(min_value=0, max_value=MOST_ID, **options)


class PageSerializer(serializers.Serializer):
    """Which page of a list: the one behind the row ``after``."""

    after = IdField(default=0)
