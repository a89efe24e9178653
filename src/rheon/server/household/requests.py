"""What the Household may be asked for."""

from __future__ import annotations

from rest_framework import serializers

from rheon.server.api.fields import IdField
from rheon.server.api.schema import DEVICE_KINDS, SOUND_WISHES, WORDS_WISHES

from .actions.people import known_languages
from .models import Member

LARGEST_BYTES = 1 << 50


class _Languages(serializers.ListField):
    """BCP 47 tags; what is no language is left out."""

    child = serializers.CharField(max_length=20)

    def to_internal_value(self, data: object) -> list[str]:
        return known_languages(super().to_internal_value(data))


class _WishesSerializer(serializers.Serializer):
    languages = _Languages(max_length=10, required=False)
    sound = serializers.ChoiceField(choices=SOUND_WISHES, allow_blank=True, required=False)
    words = serializers.ChoiceField(choices=WORDS_WISHES, allow_blank=True, required=False)


class HouseholdChangeSerializer(_WishesSerializer):
    pass


class NewMemberSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)


class MemberChangeSerializer(_WishesSerializer):
    name = serializers.CharField(max_length=80, required=False)


class DeviceChangeSerializer(_WishesSerializer):
    """Only what is named changes; ``null`` takes member or free space back."""

    name = serializers.CharField(max_length=80, required=False)
    member_id = IdField(allow_null=True, required=False)
    free_bytes = serializers.IntegerField(min_value=0, max_value=LARGEST_BYTES, allow_null=True, required=False)

    def validate_member_id(self, value: int | None) -> int | None:
        if value is not None and not Member.objects.filter(pk=value).exists():
            raise serializers.ValidationError("This member is not there any more.")
        return value


class NewDeviceSerializer(serializers.Serializer):
    profile_id = serializers.CharField(max_length=80)
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class DocumentSerializer(serializers.Serializer):
    """A profile's JSON document as text."""

    document = serializers.CharField(max_length=100_000)


class OwnDeviceSerializer(DocumentSerializer):
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class AnswersSerializer(serializers.Serializer):
    """What a person can say of a device; what is left out is not known."""

    kind = serializers.ChoiceField(choices=DEVICE_KINDS, required=False)
    year = serializers.IntegerField(min_value=1995, max_value=2100, required=False)
    screen_width = serializers.IntegerField(min_value=1, max_value=20_000, required=False)
    screen_height = serializers.IntegerField(min_value=1, max_value=20_000, required=False)
    plays_uhd = serializers.BooleanField(required=False, allow_null=True, default=None)
