"""The Worklist's addresses."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from rheon.server.api.documents import read_query
from rheon.server.api.operations import operation
from rheon.server.bench.models import Target
from rheon.server.shelf.models import Source, Title

from . import documents
from .actions.add import add_copy, add_jobs, add_sample
from .actions.change import change
from .actions.end import choose_end
from .actions.machine import mind_battery, mind_others, share_machine
from .actions.order import move_jobs
from .actions.pace import hold, keep_to, let_go, open_now
from .actions.plan_anew import plan_anew
from .history import history_csv, history_document
from .hours import Hours
from .models import Job
from .queries import worklist_document


class TheWorklist(APIView):
    @operation("worklist")
    def get(self, request: Request) -> documents.Worklist:
        return worklist_document()


class Jobs(APIView):
    @operation("addJobs", status=201)
    def post(self, request: Request, wanted: documents.NewJobs) -> documents.Added:
        titles = Title.objects.select_related("source").in_bulk([cell.title_id for cell in wanted.cells])
        targets = Target.objects.in_bulk([cell.target_id for cell in wanted.cells])
        known = [
            (titles[cell.title_id], targets[cell.target_id])
            for cell in wanted.cells
            if cell.title_id in titles and cell.target_id in targets
        ]
        return documents.Added(job_ids=[job.pk for job in add_jobs(known)])


class Order(APIView):
    @operation("moveJobs")
    def post(self, request: Request, wanted: documents.Moved) -> None:
        """Another order for what waits."""
        move_jobs(set(wanted.job_ids), wanted.before)


class Copies(APIView):
    @operation("copyDisc", status=201)
    def post(self, request: Request, wanted: documents.Copy) -> documents.Added:
        return documents.Added(job_ids=[add_copy(get_object_or_404(Source, pk=wanted.source_id)).pk])


class Samples(APIView):
    @operation("addSample", status=201)
    def post(self, request: Request, wanted: documents.CellRef) -> documents.Added:
        """The most demanding minute of a title, as a cell would make all of it, to be tried on the device."""
        title = get_object_or_404(Title.objects.select_related("source"), pk=wanted.title_id)
        target = get_object_or_404(Target, pk=wanted.target_id)
        return documents.Added(job_ids=[add_sample(title, target).pk])


class PlanOfJob(APIView):
    @operation("planJobAnew")
    def post(self, request: Request, job_id: int) -> documents.Added:
        """Another plan for what waits or ended without a file: the one that its cells have now."""
        return documents.Added(job_ids=[job.pk for job in plan_anew(get_object_or_404(Job, pk=job_id))])


class Changes(APIView):
    @operation("changeJobs")
    def post(self, request: Request, wanted: documents.JobsChange) -> None:
        """Stop, pause, go on with, try again or remove jobs."""
        change(wanted.job_ids, wanted.verb)


class Pace(APIView):
    @operation("setPace")
    def post(self, request: Request, wanted: documents.ListPace) -> None:
        """Whether what waits may begin."""
        if wanted.held:
            hold(pausing=wanted.pausing)
        else:
            let_go()


class OpenHours(APIView):
    @operation("setHours")
    def put(self, request: Request, wanted: documents.HoursChange) -> None:
        """In which hours of the day things are made."""
        hours = wanted.hours
        keep_to(Hours(begins=hours.begins, ends=hours.ends, zone=hours.zone) if hours else None)


class OpenNow(APIView):
    @operation("openNow")
    def post(self, request: Request) -> None:
        """Do not wait for the hours: go on until they end next."""
        open_now()


class Machine(APIView):
    @operation("shareMachine")
    def put(self, request: Request, wanted: documents.MachineChoice) -> None:
        """How much of the machine the making takes."""
        share_machine(wanted.share, used=wanted.used, at_once=wanted.at_once, zone=wanted.zone)


class Battery(APIView):
    @operation("mindBattery")
    def put(self, request: Request, wanted: documents.BatteryMinded) -> None:
        """Whether nothing is made while the machine lives on its battery."""
        mind_battery(minded=wanted.minded)


class OtherPrograms(APIView):
    @operation("mindOthers")
    def put(self, request: Request, wanted: documents.OthersMinded) -> None:
        """Whether everything stands still while other programs want the machine."""
        mind_others(minded=wanted.minded)


class End(APIView):
    @operation("chooseEnd")
    def put(self, request: Request, wanted: documents.EndChoice) -> None:
        """What is done when all is made, of what the settings name."""
        choose_end(wanted.name)


class History(APIView):
    @operation("history")
    def get(self, request: Request, wanted: documents.HistoryWanted) -> documents.History:
        """What became of jobs."""
        return history_document(wanted)


class HistoryFile(APIView):
    """The history as a file, of the same records that a page asks for."""

    @extend_schema(exclude=True)
    def get(self, request: Request) -> HttpResponse:
        text = history_csv(read_query(documents.HistoryWanted, request.query_params))
        # with a mark of its encoding, without which spreadsheets guess another
        answer = HttpResponse(text.encode("utf-8-sig"), content_type="text/csv; charset=utf-8; header=present")
        name = f"Rheon history {timezone.localdate().isoformat()}.csv"
        answer["Content-Disposition"] = f'attachment; filename="{name}"'
        return answer
