"""The Household's addresses."""

from __future__ import annotations

from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from django.views.decorators.http import require_GET
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from rheon.core.devices import Answers, DeviceKind, hear, load_profile
from rheon.server.api.asked import asked

from . import documents, trials
from .actions import asking, devices, learning, people, renewing
from .documents import AskingSerializer, DeviceSerializer, HeardSerializer, HouseholdSerializer, ProfileCheckSerializer
from .models import Device, Member
from .requests import (
    AnswerSerializer,
    AnswersSerializer,
    DeviceChangeSerializer,
    DocumentSerializer,
    HouseholdChangeSerializer,
    MemberChangeSerializer,
    NewDeviceSerializer,
    NewMemberSerializer,
    OwnDeviceSerializer,
    TrialSerializer,
)
from .tasks import make_clips_task


class TheHousehold(APIView):
    @extend_schema(operation_id="household", responses=HouseholdSerializer)
    def get(self, request: Request) -> Response:
        return Response(documents.household_document())

    @extend_schema(operation_id="changeHousehold", request=HouseholdChangeSerializer, responses=HouseholdSerializer)
    def patch(self, request: Request) -> Response:
        wanted = asked(HouseholdChangeSerializer, request.data)
        if "languages" in wanted:
            people.set_languages(wanted["languages"])
        people.set_wishes({key: said for key, said in wanted.items() if key != "languages"})
        return Response(documents.household_document())


class Members(APIView):
    @extend_schema(operation_id="addMember", request=NewMemberSerializer, responses={201: HouseholdSerializer})
    def post(self, request: Request) -> Response:
        people.add_member(asked(NewMemberSerializer, request.data)["name"])
        return Response(documents.household_document(), status=201)


class OneMember(APIView):
    @extend_schema(operation_id="changeMember", request=MemberChangeSerializer, responses=HouseholdSerializer)
    def patch(self, request: Request, member_id: int) -> Response:
        changes = asked(MemberChangeSerializer, request.data)
        people.change_member(get_object_or_404(Member, pk=member_id), changes)
        return Response(documents.household_document())

    @extend_schema(operation_id="removeMember", request=None, responses=HouseholdSerializer)
    def delete(self, request: Request, member_id: int) -> Response:
        people.remove_member(get_object_or_404(Member, pk=member_id))
        return Response(documents.household_document())


class Devices(APIView):
    @extend_schema(operation_id="addDevice", request=NewDeviceSerializer, responses={201: DeviceSerializer})
    def post(self, request: Request) -> Response:
        wanted = asked(NewDeviceSerializer, request.data)
        said = {**dict.fromkeys(wanted["yes"], True), **dict.fromkeys(wanted["no"], False)}
        added = devices.add_device(wanted["profile_id"], wanted["name"], said)
        return Response(documents.device_document(added), status=201)


class OwnDevices(APIView):
    @extend_schema(operation_id="addOwnDevice", request=OwnDeviceSerializer, responses={201: DeviceSerializer})
    def post(self, request: Request) -> Response:
        added = devices.add_own_device(**asked(OwnDeviceSerializer, request.data))
        asking.drop_answers()
        return Response(documents.device_document(added), status=201)


class Finding(APIView):
    @extend_schema(operation_id="findDevice", parameters=[AnswersSerializer], responses=HeardSerializer)
    def get(self, request: Request) -> Response:
        wanted = asked(AnswersSerializer, request.query_params)
        answers = Answers(
            kind=DeviceKind(wanted["kind"]) if "kind" in wanted else None,
            year=wanted.get("year"),
            said={
                **dict.fromkeys(wanted["unknown"]),
                **dict.fromkeys(wanted["yes"], True),
                **dict.fromkeys(wanted["no"], False),
            },
        )
        heard = hear(wanted["typed"], timezone.localdate().year, answers)
        return Response(documents.heard_document(heard, list(answers.said)))


class ProfileCheck(APIView):
    @extend_schema(operation_id="checkProfile", request=DocumentSerializer, responses=ProfileCheckSerializer)
    def post(self, request: Request) -> Response:
        return Response(documents.profile_check(asked(DocumentSerializer, request.data)["document"]))


class CatalogueProfile(APIView):
    @extend_schema(operation_id="profile", responses=DocumentSerializer)
    def get(self, request: Request, profile_id: str) -> Response:
        return Response({"document": documents.catalogue_text(profile_id)})


class OneDevice(APIView):
    @extend_schema(operation_id="changeDevice", request=DeviceChangeSerializer, responses=DeviceSerializer)
    def patch(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        changes = asked(DeviceChangeSerializer, request.data)
        return Response(documents.device_document(devices.change_device(device, changes)))

    @extend_schema(operation_id="replaceProfile", request=DocumentSerializer, responses=DeviceSerializer)
    def put(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        text = asked(DocumentSerializer, request.data)["document"]
        return Response(documents.device_document(devices.replace_profile(device, text)))

    @extend_schema(operation_id="removeDevice", request=None, responses={204: None})
    def delete(self, request: Request, device_id: int) -> Response:
        devices.remove_device(get_object_or_404(Device, pk=device_id))
        return Response(status=204)


class DeviceAnswers(APIView):
    @extend_schema(operation_id="answerQuestion", request=AnswerSerializer, responses=DeviceSerializer)
    def post(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        said = asked(AnswerSerializer, request.data)
        return Response(documents.device_document(learning.answer(device, said["question"], yes=said["yes"])))


class DeviceTrials(APIView):
    """Test files that settle a doubt, and how they did on the device."""

    @extend_schema(exclude=True)
    def get(self, request: Request, device_id: int) -> FileResponse:
        device = get_object_or_404(Device, pk=device_id)
        path, name = trials.trial_file(device, request.query_params.get("line", "")[:80])
        return FileResponse(path.open("rb"), as_attachment=True, filename=name)

    @extend_schema(operation_id="tellTrial", request=TrialSerializer, responses=DeviceSerializer)
    def post(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        said = asked(TrialSerializer, request.data)
        return Response(documents.device_document(learning.tell_trial(device, said["line"], works=said["works"])))


class DeviceAsked(APIView):
    @extend_schema(operation_id="takeAsked", request=DocumentSerializer, responses=DeviceSerializer)
    def post(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        asked_profile = load_profile(asked(DocumentSerializer, request.data)["document"])
        learned = learning.take_asked(device, asked_profile)
        asking.drop_answers()
        return Response(documents.device_document(learned))


class DeviceKindAgain(APIView):
    """A device and the catalogue's word on its kind."""

    @extend_schema(operation_id="startOver", request=None, responses=DeviceSerializer)
    def post(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        return Response(documents.device_document(renewing.start_over(device)))

    @extend_schema(operation_id="takeBack", request=None, responses=DeviceSerializer)
    def delete(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        return Response(documents.device_document(renewing.take_back(device)))


class DeviceNews(APIView):
    @extend_schema(operation_id="markSeen", request=None, responses=DeviceSerializer)
    def delete(self, request: Request, device_id: int) -> Response:
        device = get_object_or_404(Device, pk=device_id)
        return Response(documents.device_document(renewing.mark_seen(device)))


class AskingTheDevice(APIView):
    @extend_schema(operation_id="asking", responses=AskingSerializer)
    def get(self, request: Request) -> Response:
        return Response(documents.asking_document(asking.asking()))

    @extend_schema(operation_id="openDoor", request=None, responses=AskingSerializer)
    def post(self, request: Request) -> Response:
        row = asking.open_door()
        make_clips_task.enqueue()
        return Response(documents.asking_document(row))

    @extend_schema(operation_id="closeDoor", request=None, responses=AskingSerializer)
    def delete(self, request: Request) -> Response:
        asking.close_door()
        asking.drop_answers()
        return Response(documents.asking_document(asking.asking()))


@require_GET
def profile_file(request: HttpRequest, device_id: int) -> HttpResponse:
    """A device's profile as a file to keep or to give away."""
    profile = get_object_or_404(Device, pk=device_id).core_profile()
    headers = {"Content-Disposition": f'attachment; filename="{profile.id}.json"'}
    text = profile.model_dump_json(indent=2, exclude_none=True)
    return HttpResponse(text, content_type="application/json", headers=headers)
