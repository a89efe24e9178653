"""The Household's documents: what the interface is told."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

import segno
from rest_framework import serializers

from rheon.core.devices import (
    CLIPS,
    QUESTIONS,
    DeviceProfile,
    Family,
    Found,
    Heard,
    Span,
    answered_all,
    catalogue,
    device,
    doubtful,
    families,
    goals,
    load_profile,
    oddities,
    open_questions,
    trial,
)
from rheon.core.errors import BadProfile
from rheon.server.api.schema import CHANGE_KINDS, DEVICE_KINDS, EVIDENCE_KINDS, SOUND_WISHES, SURE_WORDS, WORDS_WISHES

from . import queries
from .actions.asking import is_open
from .capabilities import abilities, summary
from .models import Asking, Device, Member, Wishes


class AbilitySerializer(serializers.Serializer):
    """A line of a profile in words; ``test_file`` says that a file can be made that settles a doubt."""

    key = serializers.CharField()
    topic = serializers.CharField()
    text = serializers.CharField()
    sure = serializers.ChoiceField(choices=SURE_WORDS)
    why = serializers.CharField()
    point = serializers.CharField()
    test_file = serializers.BooleanField()


class QuestionSerializer(serializers.Serializer):
    """Answered by yes, no or not at all."""

    id = serializers.CharField()
    text = serializers.CharField()
    help = serializers.CharField()


class NewsSerializer(serializers.Serializer):
    what = serializers.ChoiceField(choices=CHANGE_KINDS)
    text = serializers.CharField()


class EvidenceSerializer(serializers.Serializer):
    line = serializers.CharField()
    rests_on = serializers.ChoiceField(choices=EVIDENCE_KINDS)
    note = serializers.CharField()


class ProfileSerializer(serializers.Serializer):
    id = serializers.CharField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    year = serializers.IntegerField(allow_null=True)
    generic = serializers.BooleanField()
    about = serializers.CharField()
    summary = serializers.CharField()


class WishesSerializer(serializers.Serializer):
    """Empty where whoever is asked next decides."""

    languages = serializers.ListField(child=serializers.CharField())
    sound = serializers.ChoiceField(choices=SOUND_WISHES, allow_blank=True)
    words = serializers.ChoiceField(choices=WORDS_WISHES, allow_blank=True)


class DeviceSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    profile = ProfileSerializer()
    abilities = AbilitySerializer(many=True)
    questions = QuestionSerializer(many=True)
    evidence = EvidenceSerializer(many=True)
    news = NewsSerializer(many=True)
    can_take_back = serializers.BooleanField()
    kind_name = serializers.CharField()
    is_changed = serializers.BooleanField()
    favourite = serializers.BooleanField()
    document = serializers.JSONField()
    wishes = WishesSerializer()
    member_id = serializers.IntegerField(allow_null=True)
    free_bytes = serializers.IntegerField(allow_null=True)
    storage_bytes = serializers.IntegerField(allow_null=True)
    used = serializers.IntegerField()


class MemberSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    wishes = WishesSerializer()
    device_ids = serializers.ListField(child=serializers.IntegerField())


class SpanSerializer(serializers.Serializer):
    """Years to choose from; ``year`` stands for all of them."""

    since = serializers.IntegerField()
    year = serializers.IntegerField()
    text = serializers.CharField()


class FamilySerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    label = serializers.CharField()
    count = serializers.IntegerField()
    spans = SpanSerializer(many=True)


class HouseholdSerializer(serializers.Serializer):
    languages = serializers.ListField(child=serializers.CharField())
    wishes = WishesSerializer()
    devices = DeviceSerializer(many=True)
    members = MemberSerializer(many=True)
    catalogue = ProfileSerializer(many=True)
    families = FamilySerializer(many=True)
    goals = ProfileSerializer(many=True)


class FoundSerializer(serializers.Serializer):
    """The kind that fits best. ``guessed_age``: nobody said the age, and others of other years fit too."""

    profile = ProfileSerializer()
    abilities = AbilitySerializer(many=True)
    others = ProfileSerializer(many=True)
    questions = QuestionSerializer(many=True)
    guessed_age = serializers.BooleanField()


class HeardSerializer(serializers.Serializer):
    """What was understood. ``yes`` and ``no`` are questions that words or answers have settled, ``answered`` those
    that were answered one by one.
    """

    kind = serializers.ChoiceField(choices=DEVICE_KINDS, allow_null=True)
    year = serializers.IntegerField(allow_null=True)
    yes = serializers.ListField(child=serializers.CharField())
    no = serializers.ListField(child=serializers.CharField())
    answered = QuestionSerializer(many=True)
    found = FoundSerializer(many=True)
    standards = ProfileSerializer(many=True)


class FieldNoteSerializer(serializers.Serializer):
    field = serializers.CharField()
    text = serializers.CharField()


class ProfileCheckSerializer(serializers.Serializer):
    """``errors`` keep a profile from being saved, ``warnings`` only say what is odd."""

    errors = FieldNoteSerializer(many=True)
    warnings = FieldNoteSerializer(many=True)
    abilities = AbilitySerializer(many=True)


class AskingSerializer(serializers.Serializer):
    open = serializers.BooleanField()
    address = serializers.CharField()
    code = serializers.CharField()
    until = serializers.CharField(allow_null=True)
    qr = serializers.CharField(help_text="An SVG path of dark squares, one unit each")
    qr_size = serializers.IntegerField()
    at_clip = serializers.IntegerField()
    clip_count = serializers.IntegerField()
    problem = serializers.CharField()
    document = serializers.JSONField(allow_null=True)
    abilities = AbilitySerializer(many=True)
    evidence = EvidenceSerializer(many=True)


def household_document() -> dict[str, Any]:
    return {
        "languages": list(queries.languages()),
        "wishes": wishes_document(queries.household_wishes()),
        "devices": [device_document(row) for row in queries.devices()],
        "members": [_member(row) for row in queries.members()],
        "catalogue": [profile_document(profile) for profile in catalogue().values()],
        "families": [_family(family) for family in families().values()],
        "goals": [profile_document(profile) for profile in goals().values()],
    }


def device_document(row: Device) -> dict[str, Any]:
    profile = row.core_profile()
    return {
        "id": row.pk,
        "name": row.name,
        "profile": profile_document(profile),
        "abilities": _abilities(profile),
        "questions": _questions(open_questions(profile)),
        "evidence": _evidence(profile),
        "news": row.news,
        "can_take_back": bool(row.before),
        "kind_name": row.base["name"] if row.base else "",
        "is_changed": bool(row.base) and row.base != row.profile,
        "favourite": row.favourite,
        "document": profile.model_dump(mode="json", exclude_none=True),
        "wishes": wishes_document(row),
        "member_id": row.member_id,
        "free_bytes": row.free_bytes,
        "storage_bytes": profile.limits.storage_bytes,
        "used": row.used,
    }


def profile_document(profile: DeviceProfile) -> dict[str, Any]:
    return {
        "id": profile.id,
        "name": profile.name,
        "kind": profile.kind.value,
        "year": profile.year,
        "generic": profile.generic,
        "about": profile.about,
        "summary": summary(profile),
    }


def heard_document(heard: Heard, answered: Sequence[str]) -> dict[str, Any]:
    answers = heard.answers
    return {
        "kind": answers.kind.value if answers.kind else None,
        "year": answers.year,
        "yes": [name for name, said in answers.said.items() if said],
        "no": [name for name, said in answers.said.items() if said is False],
        "answered": _questions(answered),
        "found": [_found(found, answers.said) for found in heard.found],
        "standards": [profile_document(profile) for profile in heard.standards],
    }


def _found(found: Found, said: Mapping[str, bool | None]) -> dict[str, Any]:
    return {
        "profile": profile_document(found.profile),
        "abilities": _abilities(answered_all(found.profile, said)),
        "others": [profile_document(profile) for profile in found.others],
        "questions": _questions(found.questions),
        "guessed_age": found.guessed_age,
    }


def _family(family: Family) -> dict[str, Any]:
    return {
        "kind": family.kind.value,
        "label": family.label,
        "count": len(family.generations),
        "spans": [{"since": span.since, "year": span.year, "text": _span_text(span, family)} for span in family.ages],
    }


def _span_text(span: Span, family: Family) -> str:
    if span.until is None:
        return f"{span.since} or later"
    return f"{span.until} or before" if span == family.ages[0] else f"{span.since} to {span.until}"


def wishes_document(row: Wishes) -> dict[str, Any]:
    return {"languages": list(row.languages), "sound": row.sound, "words": row.words}


def catalogue_text(profile_id: str) -> str:
    """A shipped profile as the text of its file. Raises ``NoSuchDevice``."""
    return device(profile_id).model_dump_json(indent=2, exclude_none=True)


def profile_check(text: str) -> dict[str, Any]:
    """What is wrong and what is odd about a profile that is being written."""
    try:
        profile = load_profile(text)
    except BadProfile as error:
        clauses = error.facts.get("fields")
        said = [str(clause).partition(": ") for clause in clauses] if isinstance(clauses, list) else []
        return {"errors": [{"field": f, "text": t} for f, _, t in said], "warnings": [], "abilities": []}
    return {
        "errors": [],
        "warnings": [{"field": found.field, "text": found.text} for found in oddities(profile)],
        "abilities": _abilities(profile),
    }


def asking_document(row: Asking) -> dict[str, Any]:
    opened = is_open(row)
    whole = f"{row.address}{row.code}"
    path, size = _qr(whole) if opened else ("", 0)
    profile = DeviceProfile.model_validate(row.profile) if row.profile else None
    return {
        "open": opened,
        "address": row.address,
        "code": row.code if opened else "",
        "until": row.open_until.isoformat() if row.open_until else None,
        "qr": path,
        "qr_size": size,
        "at_clip": row.at_clip,
        "clip_count": len(CLIPS),
        "problem": row.problem,
        "document": profile.model_dump(mode="json", exclude_none=True) if profile else None,
        "abilities": _abilities(profile) if profile else [],
        "evidence": _evidence(profile) if profile else [],
    }


def _qr(text: str) -> tuple[str, int]:
    """A QR code (ISO/IEC 18004) as an SVG path, without its quiet zone, and its side in modules."""
    matrix = [bytes(row) for row in segno.make_qr(text, error="m").matrix]
    squares = [f"M{x} {y}h1v1h-1z" for y, row in enumerate(matrix) for x, dark in enumerate(row) if dark]
    return "".join(squares), len(matrix)


def _member(row: Member) -> dict[str, Any]:
    return {
        "id": row.pk,
        "name": row.name,
        "wishes": wishes_document(row),
        "device_ids": [device.pk for device in row.devices.all()],
    }


def _abilities(profile: DeviceProfile) -> list[dict[str, Any]]:
    tried = {line.key for line in doubtful(profile) if trial(profile, line.key)}
    return [{**asdict(one), "test_file": one.key in tried} for one in abilities(profile)]


def _questions(names: Sequence[str]) -> list[dict[str, str]]:
    return [asdict(QUESTIONS[name]) for name in names]


def _evidence(profile: DeviceProfile) -> list[dict[str, str]]:
    return [entry.model_dump() for entry in profile.evidence]
