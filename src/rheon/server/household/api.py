"""The Household's documents and addresses."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_GET
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.devices import Answers, DeviceKind, DeviceProfile, Match, catalogue, nearest
from rheon.core.media.sentences import sentence
from rheon.server.api.schema import DEVICE_KINDS

from . import queries
from .actions.devices import add_device, add_own_device, remove_device, rename_device, set_languages
from .capabilities import capabilities, summary
from .models import Device


class CapabilitySerializer(serializers.Serializer):
    topic = serializers.CharField()
    text = serializers.CharField()


class ProfileSerializer(serializers.Serializer):
    id = serializers.CharField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=DEVICE_KINDS)
    year = serializers.IntegerField(allow_null=True)
    generic = serializers.BooleanField()
    about = serializers.CharField()
    summary = serializers.CharField()


class DeviceSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    profile = ProfileSerializer()
    capabilities = CapabilitySerializer(many=True)
    document = serializers.JSONField()


class HouseholdSerializer(serializers.Serializer):
    languages = serializers.ListField(child=serializers.CharField())
    devices = DeviceSerializer(many=True)
    catalogue = ProfileSerializer(many=True)


class LanguagesSerializer(serializers.Serializer):
    languages = serializers.ListField(child=serializers.CharField(max_length=20), max_length=10)


class NewDeviceSerializer(serializers.Serializer):
    profile_id = serializers.CharField(max_length=80)
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class OwnDeviceSerializer(serializers.Serializer):
    document = serializers.CharField(max_length=100_000)
    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class AnswersSerializer(serializers.Serializer):
    """What a person can say of a device; what is left out is not known."""

    kind = serializers.ChoiceField(choices=DEVICE_KINDS, required=False)
    year = serializers.IntegerField(min_value=1995, max_value=2100, required=False)
    screen_width = serializers.IntegerField(min_value=1, max_value=20_000, required=False)
    screen_height = serializers.IntegerField(min_value=1, max_value=20_000, required=False)
    plays_uhd = serializers.BooleanField(required=False, allow_null=True, default=None)


class MatchSerializer(serializers.Serializer):
    profile = ProfileSerializer()
    differences = serializers.ListField(child=serializers.CharField())


class DeviceNameSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)


class TheHousehold(APIView):
    @extend_schema(operation_id="household", responses=HouseholdSerializer)
    def get(self, request: Request) -> Response:
        return Response(_household())

    @extend_schema(operation_id="setLanguages", request=LanguagesSerializer, responses=HouseholdSerializer)
    def put(self, request: Request) -> Response:
        wanted = LanguagesSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        set_languages(wanted.validated_data["languages"])
        return Response(_household())


class Devices(APIView):
    @extend_schema(operation_id="addDevice", request=NewDeviceSerializer, responses={201: DeviceSerializer})
    def post(self, request: Request) -> Response:
        wanted = NewDeviceSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        return Response(_device(add_device(**wanted.validated_data)), status=201)


class OwnDevices(APIView):
    @extend_schema(operation_id="addOwnDevice", request=OwnDeviceSerializer, responses={201: DeviceSerializer})
    def post(self, request: Request) -> Response:
        wanted = OwnDeviceSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        return Response(_device(add_own_device(**wanted.validated_data)), status=201)


class Nearest(APIView):
    @extend_schema(operation_id="nearestDevices", parameters=[AnswersSerializer], responses=MatchSerializer(many=True))
    def get(self, request: Request) -> Response:
        asked = AnswersSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        said = dict(asked.validated_data)
        answers = Answers(**{**said, "kind": DeviceKind(said["kind"]) if "kind" in said else None})
        return Response([_match(match) for match in nearest(answers, catalogue().values())])


class OneDevice(APIView):
    @extend_schema(operation_id="renameDevice", request=DeviceNameSerializer, responses=DeviceSerializer)
    def patch(self, request: Request, device_id: int) -> Response:
        wanted = DeviceNameSerializer(data=request.data)
        wanted.is_valid(raise_exception=True)
        device = get_object_or_404(Device, pk=device_id)
        return Response(_device(rename_device(device, wanted.validated_data["name"])))

    @extend_schema(operation_id="removeDevice", request=None, responses={204: None})
    def delete(self, request: Request, device_id: int) -> Response:
        remove_device(get_object_or_404(Device, pk=device_id))
        return Response(status=204)


@require_GET
def profile_file(request: HttpRequest, device_id: int) -> HttpResponse:
    """A device's profile as a file to keep or to give away."""
    profile = get_object_or_404(Device, pk=device_id).core_profile()
    headers = {"Content-Disposition": f'attachment; filename="{profile.id}.json"'}
    text = profile.model_dump_json(indent=2, exclude_none=True)
    return HttpResponse(text, content_type="application/json", headers=headers)


def _match(match: Match) -> dict[str, Any]:
    differences = [sentence(reason) for reason in match.differences]
    return {"profile": _profile(match.profile), "differences": differences}


def _household() -> dict[str, Any]:
    return {
        "languages": list(queries.languages()),
        "devices": [_device(device) for device in Device.objects.all()],
        "catalogue": [_profile(profile) for profile in catalogue().values()],
    }


def _device(device: Device) -> dict[str, Any]:
    profile = device.core_profile()
    return {
        "id": device.id,
        "name": device.name,
        "profile": _profile(profile),
        "capabilities": [{"topic": topic, "text": text} for topic, text in capabilities(profile)],
        "document": profile.model_dump(mode="json", exclude_none=True),
    }


def _profile(profile: DeviceProfile) -> dict[str, Any]:
    return {
        "id": profile.id,
        "name": profile.name,
        "kind": profile.kind.value,
        "year": profile.year,
        "generic": profile.generic,
        "about": profile.about,
        "summary": summary(profile),
    }
