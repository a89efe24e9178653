"""The Household's documents: what the interface is told."""

from __future__ import annotations

from typing import Any

import segno
from rest_framework import serializers

from rheon.core.devices import CLIPS, DeviceProfile, Match, catalogue, device, goals, load_profile, oddities
from rheon.core.errors import BadProfile
from rheon.core.media.sentences import sentence
from rheon.server.api.schema import DEVICE_KINDS, SOUND_WISHES, WORDS_WISHES

from . import queries
from .actions.asking import is_open
from .capabilities import capabilities, summary
from .models import Asking, Device, Member, Wishes


class CapabilitySerializer(serializers.Serializer):
    topic = serializers.CharField()
    text = serializers.CharField()


class EvidenceSerializer(serializers.Serializer):
    line = serializers.CharField()
    rests_on = serializers.ChoiceField(choices=["played", "said", "assumed"])
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
    capabilities = CapabilitySerializer(many=True)
    evidence = EvidenceSerializer(many=True)
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


class HouseholdSerializer(serializers.Serializer):
    languages = serializers.ListField(child=serializers.CharField())
    wishes = WishesSerializer()
    devices = DeviceSerializer(many=True)
    members = MemberSerializer(many=True)
    catalogue = ProfileSerializer(many=True)
    goals = ProfileSerializer(many=True)


class MatchSerializer(serializers.Serializer):
    profile = ProfileSerializer()
    differences = serializers.ListField(child=serializers.CharField())


class FieldNoteSerializer(serializers.Serializer):
    field = serializers.CharField()
    text = serializers.CharField()


class ProfileCheckSerializer(serializers.Serializer):
    """``errors`` keep a profile from being saved, ``warnings`` only say what is odd."""

    errors = FieldNoteSerializer(many=True)
    warnings = FieldNoteSerializer(many=True)
    capabilities = CapabilitySerializer(many=True)


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
    capabilities = CapabilitySerializer(many=True)
    evidence = EvidenceSerializer(many=True)


def household_document() -> dict[str, Any]:
    return {
        "languages": list(queries.languages()),
        "wishes": wishes_document(queries.household_wishes()),
        "devices": [device_document(row) for row in queries.devices()],
        "members": [_member(row) for row in queries.members()],
        "catalogue": [profile_document(profile) for profile in catalogue().values()],
        "goals": [profile_document(profile) for profile in goals().values()],
    }


def device_document(row: Device) -> dict[str, Any]:
    profile = row.core_profile()
    return {
        "id": row.pk,
        "name": row.name,
        "profile": profile_document(profile),
        "capabilities": _capabilities(profile),
        "evidence": _evidence(profile),
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


def match_document(match: Match) -> dict[str, Any]:
    differences = [sentence(reason) for reason in match.differences]
    return {"profile": profile_document(match.profile), "differences": differences}


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
        return {"errors": [{"field": f, "text": t} for f, _, t in said], "warnings": [], "capabilities": []}
    return {
        "errors": [],
        "warnings": [{"field": found.field, "text": found.text} for found in oddities(profile)],
        "capabilities": _capabilities(profile),
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
        "capabilities": _capabilities(profile) if profile else [],
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


def _capabilities(profile: DeviceProfile) -> list[dict[str, str]]:
    return [{"topic": topic, "text": text} for topic, text in capabilities(profile)]


def _evidence(profile: DeviceProfile) -> list[dict[str, str]]:
    return [entry.model_dump() for entry in profile.evidence]
