"""The Household's addresses."""

from __future__ import annotations

from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from django.views.decorators.http import require_GET
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.core.devices import Answers, hear, load_profile
from rheon.server.api.operations import operation

from . import documents, queries, requests, trials
from .actions import devices, learning, pairing, people, renewing
from .models import Device, Member
from .tasks import make_clips_task


class TheHousehold(APIView):
    @operation("household")
    def get(self, request: Request) -> documents.Household:
        return queries.household_document()

    @operation("changeHousehold")
    def patch(self, request: Request, wanted: requests.HouseholdChange) -> documents.Household:
        people.change_household(wanted)
        return queries.household_document()


class Members(APIView):
    @operation("addMember", status=201)
    def post(self, request: Request, wanted: requests.NewMember) -> documents.Household:
        people.add_member(wanted.name)
        return queries.household_document()


class OneMember(APIView):
    @operation("changeMember")
    def patch(self, request: Request, member_id: int, wanted: requests.MemberChange) -> documents.Household:
        people.change_member(get_object_or_404(Member, pk=member_id), wanted)
        return queries.household_document()

    @operation("removeMember")
    def delete(self, request: Request, member_id: int) -> documents.Household:
        people.remove_member(get_object_or_404(Member, pk=member_id))
        return queries.household_document()


class Devices(APIView):
    @operation("addDevice", status=201)
    def post(self, request: Request, wanted: requests.NewDevice) -> documents.Device:
        said: dict[str, bool] = {**dict.fromkeys(wanted.yes, True), **dict.fromkeys(wanted.no, False)}
        return queries.device_document(devices.add_device(wanted.profile_id, wanted.name, said))


class OwnDevices(APIView):
    @operation("addOwnDevice", status=201)
    def post(self, request: Request, wanted: requests.OwnDevice) -> documents.Device:
        added = devices.add_own_device(wanted.document, wanted.name)
        pairing.drop_answers()
        return queries.device_document(added)


class Finding(APIView):
    @operation("findDevice")
    def get(self, request: Request, wanted: requests.AnswersSaid) -> documents.Heard:
        said: dict[str, bool | None] = {
            **dict.fromkeys(wanted.unknown),
            **dict.fromkeys(wanted.yes, True),
            **dict.fromkeys(wanted.no, False),
        }
        answers = Answers(kind=wanted.kind, year=wanted.year, said=said)
        return queries.heard_document(hear(wanted.typed, timezone.localdate().year, answers), list(said))


class ProfileCheck(APIView):
    @operation("checkProfile")
    def post(self, request: Request, wanted: requests.ProfileDocument) -> documents.ProfileCheck:
        return queries.profile_check(wanted.document)


class CatalogueProfile(APIView):
    @operation("profile")
    def get(self, request: Request, profile_id: str) -> documents.ProfileText:
        return queries.catalogue_profile(profile_id)


class OneDevice(APIView):
    @operation("changeDevice")
    def patch(self, request: Request, device_id: int, wanted: requests.DeviceChange) -> documents.Device:
        if wanted.member_id is not None:
            get_object_or_404(Member, pk=wanted.member_id)
        return queries.device_document(devices.change_device(get_object_or_404(Device, pk=device_id), wanted))

    @operation("replaceProfile")
    def put(self, request: Request, device_id: int, wanted: requests.ProfileDocument) -> documents.Device:
        device = get_object_or_404(Device, pk=device_id)
        return queries.device_document(devices.replace_profile(device, wanted.document))

    @operation("removeDevice")
    def delete(self, request: Request, device_id: int) -> None:
        devices.remove_device(get_object_or_404(Device, pk=device_id))


class DeviceAnswers(APIView):
    @operation("answerQuestion")
    def post(self, request: Request, device_id: int, wanted: requests.Answer) -> documents.Device:
        device = get_object_or_404(Device, pk=device_id)
        return queries.device_document(learning.answer(device, wanted.question, yes=wanted.yes))


class DeviceTrials(APIView):
    """Test files that settle a doubt, and how they did on the device."""

    @extend_schema(exclude=True)
    def get(self, request: Request, device_id: int) -> FileResponse:
        device = get_object_or_404(Device, pk=device_id)
        path, name = trials.trial_file(device, request.query_params.get("line", "")[:80])
        return FileResponse(path.open("rb"), as_attachment=True, filename=name)

    @operation("tellTrial")
    def post(self, request: Request, device_id: int, wanted: requests.Trial) -> documents.Device:
        device = get_object_or_404(Device, pk=device_id)
        return queries.device_document(learning.tell_trial(device, wanted.line, works=wanted.works))


class DeviceAsked(APIView):
    @operation("takeAsked")
    def post(self, request: Request, device_id: int, wanted: requests.ProfileDocument) -> documents.Device:
        device = get_object_or_404(Device, pk=device_id)
        learned = learning.take_asked(device, load_profile(wanted.document))
        pairing.drop_answers()
        return queries.device_document(learned)


class DeviceKindAgain(APIView):
    """A device and the catalogue's word on its kind."""

    @operation("startOver")
    def post(self, request: Request, device_id: int) -> documents.Device:
        return queries.device_document(renewing.start_over(get_object_or_404(Device, pk=device_id)))

    @operation("takeBack")
    def delete(self, request: Request, device_id: int) -> documents.Device:
        return queries.device_document(renewing.take_back(get_object_or_404(Device, pk=device_id)))


class DeviceNews(APIView):
    @operation("markSeen")
    def delete(self, request: Request, device_id: int) -> documents.Device:
        return queries.device_document(renewing.mark_seen(get_object_or_404(Device, pk=device_id)))


class ThePairing(APIView):
    @operation("pairing")
    def get(self, request: Request) -> documents.Pairing:
        return queries.pairing_document(pairing.pairing())

    @operation("openPairing")
    def post(self, request: Request) -> documents.Pairing:
        row = pairing.open_pairing()
        make_clips_task.enqueue()
        return queries.pairing_document(row)

    @operation("closePairing")
    def delete(self, request: Request) -> documents.Pairing:
        pairing.close_pairing()
        pairing.drop_answers()
        return queries.pairing_document(pairing.pairing())


@require_GET
def profile_file(request: HttpRequest, device_id: int) -> HttpResponse:
    """A device's profile as a file to keep or to give away."""
    profile = get_object_or_404(Device, pk=device_id).core_profile()
    headers = {"Content-Disposition": f'attachment; filename="{profile.id}.json"'}
    text = profile.model_dump_json(indent=2, exclude_none=True)
    return HttpResponse(text, content_type="application/json", headers=headers)
