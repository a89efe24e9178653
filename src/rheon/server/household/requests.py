"""What the Household may be asked for."""

from __future__ import annotations

from rest_framework import serializers

from rheon.server.api.fields import IdField
from rheon.server.api.schema import DEVICE_KINDS, QUESTION_IDS, SOUND_WISHES, WORDS_WISHES

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
    favourite = serializers.BooleanField(required=False)

    def validate_member_id(self, value: int | None) -> int | None:
        if value is not None and not Member.objects.filter(pk=value).exists():
            raise serializers.ValidationError("This member is not there any more.")
        return value


class _Questions(serializers.ListField):
    child = serializers.ChoiceField(choices=QUESTION_IDS)


class _SaidSerializer(serializers.Serializer):
    """Answers to questions: those answered by yes and those answered by no."""

    yes = _Questions(max_length=len(QUESTION_IDS), required=False, default=list)
    no = _Questions(max_length=len(QUESTION_IDS), required=False, default=list)


class NewDeviceSerializer(_SaidSerializer):
    profile_id = serializers.CharField(max_length=80)
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class DocumentSerializer(serializers.Serializer):
    """A profile's JSON document as text."""

    document = serializers.CharField(max_length=100_000)


class OwnDeviceSerializer(DocumentSerializer):
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class AnswersSerializer(_SaidSerializer):
    """What a person says of a device: in a sentence, or answer by answer. What is left out is not known."""

    typed = serializers.CharField(max_length=200, allow_blank=True, default="", trim_whitespace=False)
    kind = serializers.ChoiceField(choices=DEVICE_KINDS, required=False)
    year = serializers.IntegerField(min_value=1995, max_value=2100, required=False)
    unknown = _Questions(max_length=len(QUESTION_IDS), required=False, default=list)


class AnswerSerializer(serializers.Serializer):
    question = serializers.ChoiceField(choices=QUESTION_IDS)
    yes = serializers.BooleanField()


class TrialSerializer(serializers.Serializer):
    """How the test file for a doubtful line did: it played, or it did not."""

    line = serializers.CharField(max_length=80)
    works = serializers.BooleanField()
