"""The Outbox's addresses."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.server.api.documents import PageWanted
from rheon.server.api.operations import operation
from rheon.server.household.models import Device

from . import documents
from .actions import handover, library, network, pick_up
from .actions.outputs import forget, report
from .actions.tags import update_files, want_tags
from .by_device import handovers_document
from .library import library_document
from .models import Handover, Output
from .outdated import outdated_document
from .pickup.queries import pick_up_document
from .queries import output_document, outputs_document
from .volumes import pull_out


class TheOutbox(APIView):
    @operation("outbox")
    def get(self, request: Request, wanted: PageWanted) -> documents.Outbox:
        return outputs_document(wanted.after)


class OneOutput(APIView):
    @operation("output")
    def get(self, request: Request, output_id: int) -> documents.Output:
        return output_document(get_object_or_404(Output, pk=output_id))

    @operation("forgetOutput")
    def delete(self, request: Request, output_id: int) -> None:
        forget(get_object_or_404(Output, pk=output_id))


class OutputOfJob(APIView):
    @operation("outputOfJob")
    def get(self, request: Request, job_id: int) -> documents.Output:
        """What a job made."""
        return output_document(get_object_or_404(Output, job_id=job_id))


class TagsOfOutput(APIView):
    @operation("changeOutputTags", status=202)
    def patch(self, request: Request, output_id: int, wanted: documents.NewTags) -> documents.Output:
        """Other tags into a file that is there; a large one takes its time, and is whole at every moment of it."""
        output = get_object_or_404(Output, pk=output_id)
        want_tags(output, wanted.tags, rename=wanted.rename, artwork=wanted.artwork)
        return output_document(output)


class OutdatedFiles(APIView):
    @operation("outdatedFiles")
    def get(self, request: Request, wanted: documents.TitlesMeant) -> documents.OutdatedFiles:
        return outdated_document(wanted.titles)

    @operation("updateFiles", status=202)
    def post(self, request: Request, wanted: documents.FilesToUpdate) -> documents.OutdatedFiles:
        """Have what is known of titles now written into their files."""
        update_files(wanted.titles, rename=wanted.rename)
        return outdated_document(wanted.titles)


class Reports(APIView):
    @operation("reportPlayed")
    def post(self, request: Request, output_id: int, wanted: documents.Report) -> documents.Output:
        output = get_object_or_404(Output, pk=output_id)
        device = get_object_or_404(Device, pk=wanted.device_id)
        return output_document(report(output, device, wanted.trouble))


class TheHandovers(APIView):
    @operation("handovers")
    def get(self, request: Request, wanted: documents.HandoversWanted) -> documents.Handovers:
        """Every device with what is on its way there; what is left out gives its room to others."""
        return handovers_document(wanted)

    @operation("handOver", status=202)
    def post(self, request: Request, wanted: documents.NewHandovers) -> None:
        outputs = [get_object_or_404(Output, pk=output_id) for output_id in wanted.outputs]
        handover.want_copies(_device(wanted.device_id), outputs, replace=wanted.replace)


class OneHandover(APIView):
    @operation("stopHandover")
    def delete(self, request: Request, handover_id: int) -> None:
        """Stop it; nothing of it stays on the device. What is there already does."""
        handover.stop(get_object_or_404(Handover, pk=handover_id))


class TheStorage(APIView):
    @operation("setStorage")
    def put(self, request: Request, device_id: int, wanted: documents.NewStorage) -> None:
        handover.set_storage(_device(device_id), wanted.volume_id, wanted.folder)

    @operation("forgetStorage")
    def delete(self, request: Request, device_id: int) -> None:
        handover.forget_storage(_device(device_id))


class TheWishes(APIView):
    @operation("setWishes")
    def put(self, request: Request, device_id: int, wanted: documents.WishedFiles) -> None:
        """Say which files are to go there first where not all of them fit."""
        handover.set_wishes(_device(device_id), wanted.outputs)


class Ejected(APIView):
    @operation("ejectVolume")
    def post(self, request: Request, wanted: documents.MeantVolume) -> None:
        """Have everything written and unmount it, so that it can be taken out."""
        handover.eject_volume(wanted.volume_id)


class Plugged(APIView):
    @operation("plugIn")
    def put(self, request: Request, wanted: documents.MeantLabel) -> None:
        """Plug a stand-in in."""
        handover.plug_in_now(wanted.label)

    @operation("pullOut")
    def delete(self, request: Request, wanted: documents.PulledOut) -> None:
        """Take a stand-in out without a word before it."""
        pull_out(wanted.label)


class TheLibrary(APIView):
    @operation("library")
    def get(self, request: Request, wanted: documents.LibraryWanted) -> documents.Library:
        """What is in the library: on which devices it plays as it is, and what is there twice."""
        return library_document(wanted)

    @operation("lookThroughLibrary", status=202)
    def post(self, request: Request) -> None:
        library.want_look()

    @operation("stopLooking")
    def delete(self, request: Request) -> None:
        """Stop looking through it; what was read stays known."""
        library.stop_look()


class OnNetwork(APIView):
    @operation("showOnNetwork")
    def put(self, request: Request, device_id: int) -> None:
        """Let the TVs of the home network find and play what was made for a device, until it is taken back."""
        network.show(get_object_or_404(Device, pk=device_id))

    @operation("hideFromNetwork")
    def delete(self, request: Request, device_id: int) -> None:
        network.hide(get_object_or_404(Device, pk=device_id))


class ThePickUp(APIView):
    @operation("pickUp")
    def get(self, request: Request) -> documents.PickUp:
        return pick_up_document()

    @operation("openPickUp")
    def put(self, request: Request, wanted: documents.NewPickUp) -> documents.PickUp:
        """Let devices of the home network pick these files up, by a code and for a while."""
        device = get_object_or_404(Device, pk=wanted.device_id) if wanted.device_id else None
        pick_up.open_pick_up([get_object_or_404(Output, pk=pk) for pk in wanted.outputs], device)
        return pick_up_document()

    @operation("closePickUp")
    def delete(self, request: Request) -> documents.PickUp:
        pick_up.close_pick_up()
        return pick_up_document()


def _device(device_id: int) -> Device | None:
    """``None`` for the library."""
    return get_object_or_404(Device, pk=device_id) if device_id else None
