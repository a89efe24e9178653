"""The installation's documents: what its pages are told."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from rest_framework import serializers

from rheon.core.system import path_text, place_of, text_path
from rheon.settings import lines, load_settings

from .actions.setting_up import proposed_outputs
from .queries import home, output_folders, signed_in_elsewhere


class PlaceSerializer(serializers.Serializer):
    """A folder and what it lies on; sizes are null where nothing is there to be asked."""

    path = serializers.CharField()
    exists = serializers.BooleanField()
    writable = serializers.BooleanField()
    free_bytes = serializers.IntegerField(allow_null=True)
    file_system = serializers.CharField()
    largest_file_bytes = serializers.IntegerField(allow_null=True)


class SettingLineSerializer(serializers.Serializer):
    name = serializers.CharField()
    variable = serializers.CharField()
    value = serializers.CharField()
    origin = serializers.CharField()
    about = serializers.CharField()


class HomeSerializer(serializers.Serializer):
    set_up = serializers.BooleanField()
    output = PlaceSerializer()
    proposed_outputs = PlaceSerializer(many=True)
    has_passphrase = serializers.BooleanField()
    signed_in_elsewhere = serializers.IntegerField()
    settings = SettingLineSerializer(many=True)


class HomeChangeSerializer(serializers.Serializer):
    output = serializers.CharField(required=False, max_length=4096)
    set_up = serializers.BooleanField(required=False)


class SessionSerializer(serializers.Serializer):
    has_passphrase = serializers.BooleanField()
    signed_in = serializers.BooleanField()


class PassphraseSerializer(serializers.Serializer):
    passphrase = serializers.CharField(max_length=1000, trim_whitespace=False)


class HealthSerializer(serializers.Serializer):
    healthy = serializers.BooleanField()
    version = serializers.CharField()


def home_document(session_key: str | None) -> dict[str, Any]:
    row = home()
    return {
        "set_up": row.set_up is not None,
        "output": place_document(path_text(str(output_folders()[-1]))),
        "proposed_outputs": [place_document(path) for path in proposed_outputs()],
        "has_passphrase": bool(row.passphrase),
        "signed_in_elsewhere": signed_in_elsewhere(session_key) if row.passphrase else 0,
        "settings": [line.model_dump() for line in lines(load_settings())],
    }


def place_document(text: str) -> dict[str, Any]:
    place = place_of(Path(text_path(text)))
    return {
        "path": text,
        "exists": bool(place and place.exists),
        "writable": bool(place and place.writable),
        "free_bytes": place.free_bytes if place else None,
        "file_system": place.file_system if place else "",
        "largest_file_bytes": place.largest_file_bytes if place else None,
    }
