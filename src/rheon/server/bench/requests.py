"""What the Bench may be asked for."""

from __future__ import annotations

from rest_framework import serializers

from rheon.core.planning import Balance
from rheon.server.api.schema import BALANCES

MOST_ROWS = 200


class BenchBalanceSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)


class PickChangeSerializer(serializers.Serializer):
    title_ids = serializers.ListField(child=serializers.IntegerField(), max_length=5000)
    picked = serializers.BooleanField()


class CellsWantedSerializer(serializers.Serializer):
    """Title ids with commas between them."""

    titles = serializers.RegexField(r"^\d+(,\d+)*$", max_length=4000)
    balance = serializers.ChoiceField(choices=BALANCES, required=False)

    def ids(self) -> list[int]:
        return [int(part) for part in self.validated_data["titles"].split(",")][:MOST_ROWS]

    def wanted_balance(self) -> Balance | None:
        said = self.validated_data.get("balance")
        return Balance(said) if said else None


class SheetChangeSerializer(serializers.Serializer):
    """``pins`` maps decision keys to values; ``null`` lets Rheon choose again."""

    balance = serializers.ChoiceField(choices=BALANCES, required=False)
    pins = serializers.DictField(
        child=serializers.CharField(allow_null=True, allow_blank=False, max_length=300, trim_whitespace=False),
        required=False,
    )


class CarrySerializer(serializers.Serializer):
    to = serializers.ChoiceField(choices=["siblings", "picked"])


class KeepSetSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)


class SetFileSerializer(serializers.Serializer):
    document = serializers.CharField(max_length=20_000)


class ColumnWantedSerializer(serializers.Serializer):
    """A goal by its id, or the devices that are to share a file."""

    goal_id = serializers.CharField(max_length=80, required=False)
    device_ids = serializers.ListField(child=serializers.IntegerField(), required=False, max_length=50)


class ServingWantedSerializer(serializers.Serializer):
    """Device ids with commas between them; all of the household's where none are named."""

    devices = serializers.RegexField(r"^\d+(,\d+)*$", max_length=2000, required=False)

    def ids(self) -> list[int]:
        said = self.validated_data.get("devices", "")
        return [int(part) for part in said.split(",") if part]
