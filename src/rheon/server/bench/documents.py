"""The shapes of the Bench's documents."""

from __future__ import annotations

from rest_framework import serializers

from rheon.server.api.schema import BALANCES, DEVICE_KINDS, ROLES, VERDICTS
from rheon.server.household.models import Column


class EstimateSerializer(serializers.Serializer):
    size_bytes = serializers.IntegerField()
    size_low_bytes = serializers.IntegerField()
    size_high_bytes = serializers.IntegerField()
    time_s = serializers.FloatField()
    time_low_s = serializers.FloatField()
    time_high_s = serializers.FloatField()


class RowSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    role = serializers.ChoiceField(choices=ROLES)
    duration_s = serializers.FloatField()
    size_bytes = serializers.IntegerField()
    detail = serializers.CharField()


class ColumnSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    column = serializers.ChoiceField(choices=Column)
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    model = serializers.CharField()
    detail = serializers.CharField()
    free_bytes = serializers.IntegerField(allow_null=True)
    largest_file_bytes = serializers.IntegerField(allow_null=True)
    used = serializers.IntegerField()


class CellSerializer(serializers.Serializer):
    """``broken`` counts the rules that the file will break, ``too_large`` says that it is larger than what is free."""

    title_id = serializers.IntegerField()
    device_id = serializers.IntegerField()
    verdict = serializers.ChoiceField(choices=VERDICTS)
    reason = serializers.CharField()
    estimate = EstimateSerializer(allow_null=True)
    surround = serializers.BooleanField()
    same_as = serializers.IntegerField(allow_null=True)
    by_hand = serializers.BooleanField()
    broken = serializers.IntegerField()
    too_large = serializers.BooleanField()


class TableSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)
    titles = RowSerializer(many=True)
    devices = ColumnSerializer(many=True)


class PicksSerializer(serializers.Serializer):
    title_ids = serializers.ListField(child=serializers.IntegerField())


class ChoiceSerializer(serializers.Serializer):
    value = serializers.CharField()
    text = serializers.CharField()


class RangeSerializer(serializers.Serializer):
    low = serializers.FloatField()
    high = serializers.FloatField()
    unit = serializers.CharField()
    before = serializers.CharField()


class BreachSerializer(serializers.Serializer):
    device = serializers.CharField()
    rule = serializers.CharField()
    measured = serializers.CharField()
    allowed = serializers.CharField()
    consequence = serializers.CharField()


class DecisionSerializer(serializers.Serializer):
    key = serializers.CharField()
    group = serializers.ChoiceField(choices=["picture", "sound", "words", "file"])
    label = serializers.CharField()
    help = serializers.CharField()
    value = serializers.CharField()
    text = serializers.CharField()
    reason = serializers.CharField()
    pinned = serializers.BooleanField()
    fine = serializers.BooleanField()
    choices = ChoiceSerializer(many=True)
    ranges = RangeSerializer(many=True)
    broken = BreachSerializer(many=True)


class MoveSerializer(serializers.Serializer):
    label = serializers.CharField()
    before = serializers.CharField(allow_null=True)
    after = serializers.CharField(allow_null=True)
    reason = serializers.CharField()


class StepSerializer(serializers.Serializer):
    balance = serializers.ChoiceField(choices=BALANCES)
    estimate = EstimateSerializer(allow_null=True)


class SizeSerializer(serializers.Serializer):
    width = serializers.IntegerField()
    height = serializers.IntegerField()


class RuleSerializer(serializers.Serializer):
    rule = serializers.CharField()
    ok = serializers.BooleanField()
    measured = serializers.CharField()
    allowed = serializers.CharField()


class PinSetSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    pins = serializers.IntegerField()


class SheetSerializer(serializers.Serializer):
    title_id = serializers.IntegerField()
    title_name = serializers.CharField()
    source_name = serializers.CharField()
    device_id = serializers.IntegerField()
    device_name = serializers.CharField()
    device_kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    screen = SizeSerializer(allow_null=True)
    duration_s = serializers.FloatField()
    chapters = serializers.ListField(child=serializers.FloatField())
    balance = serializers.ChoiceField(choices=BALANCES)
    own_balance = serializers.BooleanField()
    treatment = serializers.ChoiceField(choices=VERDICTS)
    reason = serializers.CharField()
    decisions = DecisionSerializer(many=True)
    breaches = BreachSerializer(many=True)
    missing = serializers.ListField(child=serializers.CharField())
    moved = MoveSerializer(many=True)
    pins = serializers.ListField(child=serializers.CharField())
    estimate = EstimateSerializer(allow_null=True)
    sampled = serializers.BooleanField()
    steps = StepSerializer(many=True)
    limit_bytes = serializers.IntegerField(allow_null=True)
    free_bytes = serializers.IntegerField(allow_null=True)
    frame = SizeSerializer(allow_null=True)
    look = serializers.CharField()
    rules = RuleSerializer(many=True)
    siblings = serializers.IntegerField()
    picked = serializers.IntegerField()
    sets = PinSetSerializer(many=True)


class DeviceVerdictSerializer(serializers.Serializer):
    device_id = serializers.IntegerField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    verdict = serializers.ChoiceField(choices=VERDICTS)
    reason = serializers.CharField()
    rules = RuleSerializer(many=True)


class VerdictsSerializer(serializers.Serializer):
    title_id = serializers.IntegerField()
    title_name = serializers.CharField()
    devices = DeviceVerdictSerializer(many=True)


class SharedFileSerializer(serializers.Serializer):
    device_ids = serializers.ListField(child=serializers.IntegerField())
    summary = serializers.CharField()
    estimate = EstimateSerializer(allow_null=True)
    costs = serializers.ListField(child=serializers.CharField())


class ServingSerializer(serializers.Serializer):
    title_id = serializers.IntegerField()
    files = SharedFileSerializer(many=True)
    as_it_is = serializers.ListField(child=serializers.IntegerField())
    impossible = serializers.ListField(child=serializers.IntegerField())


class GoalSerializer(serializers.Serializer):
    id = serializers.CharField()
    name = serializers.CharField()
    about = serializers.CharField()
    on_bench = serializers.BooleanField()


class CarriedSerializer(serializers.Serializer):
    count = serializers.IntegerField()
    left = serializers.ListField(child=serializers.CharField())
