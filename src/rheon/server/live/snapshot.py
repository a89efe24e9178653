"""What an open page has to know at once."""

from __future__ import annotations

from django.db.models import Count, Max, Q, Sum

from rheon.server.bench.models import Bench, CellOverride, Pick, Target
from rheon.server.home.models import Home
from rheon.server.household.models import Device, Household, Member, Pairing
from rheon.server.outbox.models import Handover, Output, PickUp
from rheon.server.shelf.models import FilmFolder, Source, Title
from rheon.server.worklist.queries import running_jobs, worklist_mark

from .documents import Counts, Live, Marks


def snapshot() -> Live:
    """What is being made, the counts of the bar, and marks that change when a place should be read again."""
    running, total = running_jobs()
    picks = list(Pick.objects.order_by("title_id").values_list("title_id", flat=True))
    counts = Counts(
        sources=Source.objects.count(),
        picked=len(picks),
        to_do=total.count,
        fraction=round(total.fraction, 3),
        outputs=Output.objects.filter(is_sample=False).count(),
    )
    marks = Marks(
        worklist=worklist_mark(),
        shelf=_shelf_mark(),
        bench=_bench_mark(picks),
        outbox=_outbox_mark(),
        household=_household_mark(),
        balance=_balance_mark(),
        home=_machine_mark(),
    )
    return Live(running=running, total=total, counts=counts, marks=marks)


def _shelf_mark() -> str:
    seen = Source.objects.aggregate(count=Count("id"), changed=Max("changed"), at=Sum("at_title"))
    states = sorted(Source.objects.order_by().values_list("state").annotate(Count("id")))
    folders = list(FilmFolder.objects.values_list("id", "found", "looked"))
    return f"{seen['count']}|{seen['changed']}|{seen['at']}|{states}|{folders}"


def _bench_mark(picks: list[int]) -> str:
    sampled = Title.objects.filter(samples__isnull=False).count()
    measured = Title.objects.aggregate(last=Max("measured_at"))["last"]
    looked_at = Title.objects.filter(survey__isnull=False).count()
    settings = list(CellOverride.objects.values_list("id", "balance", "pins"))
    devices = list(
        Device.objects.values_list("id", "name", "member_id", "languages", "sound", "subtitles", "free_bytes")
    )
    targets = list(Target.objects.values_list("id", "kind", "goal", "shares"))
    people = list(Member.objects.values_list("languages", "sound", "subtitles"))
    everyone = list(Household.objects.values_list("languages", "sound", "subtitles"))
    said = (settings, devices, targets, people, everyone, _machine_mark())
    return str(hash((tuple(picks), sampled, measured, looked_at, repr(said))))


def _machine_mark() -> str:
    """How quick it is, what works of its hardware, what that costs, and whether it is preferred: plans rest on it."""
    return str(
        hash(
            repr(
                list(Home.objects.values_list("trials", "costs", "prefers_speed", "hardware_mark", "failures", "pace"))
            )
        )
    )


def _balance_mark() -> str:
    """By itself: cells are asked for at a balance, so that another one makes none of them old."""
    return ",".join(Bench.objects.values_list("balance", flat=True))


def _household_mark() -> str:
    pairing = list(Pairing.objects.values_list("open_until", "at_clip", "problem", "wrong_tries"))
    answered = Pairing.objects.filter(profile__isnull=False).exists()
    return f"{pairing}|{answered}|{Member.objects.count()}|{Device.objects.count()}"


def _outbox_mark() -> str:
    tagging = Count("id", filter=Q(tags_wanted__isnull=False))
    # a writing may begin and end between two looks
    seen = Output.objects.aggregate(count=Count("id"), last=Max("id"), tagging=tagging, tagged=Max("tagged"))
    handed = Handover.objects.aggregate(count=Count("id"), last=Max("id"), ended=Max("ended"))
    fetched = list(PickUp.objects.values_list("open_until", "fetched", "problem"))
    return repr((*seen.values(), *handed.values(), fetched))
