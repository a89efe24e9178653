"""What the Bench may be asked for."""

from __future__ import annotations

import re

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from rheon.core.system import is_text
from rheon.server.api.fields import IdField
from rheon.server.api.schema import BALANCES

MOST_ROWS = 200
MOST_PINS, LONGEST_KEY = 100, 80


class BenchBalanceSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)


class PickChangeSerializer(serializers.Serializer):
    title_ids = serializers.ListField(child=IdField(), max_length=5000)
    picked = serializers.BooleanField()


@extend_schema_field(OpenApiTypes.STR)
class _Numbers(serializers.Field):
    """Row numbers with commas between them."""

    def to_internal_value(self, data: object) -> list[int]:
        if not re.fullmatch(r"\d{1,12}(,\d{1,12})*", str(data)):
            raise serializers.ValidationError("Say numbers with commas between them.")
        return [int(part) for part in str(data).split(",")][:MOST_ROWS]


class CellsWantedSerializer(serializers.Serializer):
    """Of which titles, and at which balance (the Bench's where none is named)."""

    titles = _Numbers()
    balance = serializers.ChoiceField(choices=BALANCES, required=False)


class SheetChangeSerializer(serializers.Serializer):
    """``pins`` maps decision keys to values; ``null`` lets Rheon choose again."""

    balance = serializers.ChoiceField(choices=BALANCES, required=False)
    pins = serializers.DictField(
        child=serializers.CharField(allow_null=True, allow_blank=False, max_length=300, trim_whitespace=False),
        required=False,
    )

    def validate_pins(self, value: dict[str, str | None]) -> dict[str, str | None]:
        if len(value) > MOST_PINS or any(len(key) > LONGEST_KEY or not is_text(key) for key in value):
            raise serializers.ValidationError("These are no decisions of a plan.")
        return value


class CarrySerializer(serializers.Serializer):
    to = serializers.ChoiceField(choices=["siblings", "picked"])


class KeepSetSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)


class SetFileSerializer(serializers.Serializer):
    document = serializers.CharField(max_length=20_000)


class ColumnWantedSerializer(serializers.Serializer):
    """A goal by its id, or the devices that are to share a file."""

    goal_id = serializers.CharField(max_length=80, required=False)
    device_ids = serializers.ListField(child=IdField(), required=False, max_length=50)


class ServingWantedSerializer(serializers.Serializer):
    """For which devices; all of the household's where none are named."""

    devices = _Numbers(required=False)
