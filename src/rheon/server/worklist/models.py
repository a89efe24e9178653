"""Jobs: plans being carried out."""

from __future__ import annotations

from datetime import datetime

from django.db import models
from django.db.models import Q
from django.utils import timezone

from rheon.core.devices import DeviceProfile
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load
from rheon.core.planning import Plan, PlanRequest
from rheon.server.claims import Leased
from rheon.server.shelf.models import Title

from .hours import Hours


class JobState(models.TextChoices):
    WAITING = "waiting"
    RUNNING = "running"
    PAUSED = "paused"
    DONE = "done"
    FAILED = "failed"
    STOPPED = "stopped"
    INTERRUPTED = "interrupted"


WITHOUT_FILE = (JobState.FAILED, JobState.STOPPED, JobState.INTERRUPTED)
ENDED = (JobState.DONE, *WITHOUT_FILE)
IN_WORK = Q(state=JobState.RUNNING) | Q(state=JobState.PAUSED) & ~Q(worker="")
"""What a worker is at, if only to stand still."""
AT_REST = Q(state=JobState.WAITING) | Q(state=JobState.PAUSED, worker="")
"""What nobody has begun: it waits for its turn, or for somebody to let it."""


class JobKind(models.TextChoices):
    """A file by a plan, a title with every track as it is, a disc with every file as it is, a minute to try a plan."""

    CONVERT = "convert"
    COPY_TITLE = "copy_title"
    COPY_DISC = "copy_disc"
    SAMPLE = "sample"


class Job(Leased):
    """One plan. Title, plan and devices are stored as they were, so a job means the same for ever.

    ``request_document`` is what was asked for: where nobody had looked at the title yet, the plan is settled from it
    once somebody has, before anything is made. ``accept_loss``: what is there of a cut-off source is enough.

    ``duration_s`` and ``expected`` (the plan's estimate) say again what the list shows, so that it reads no documents.

    ``kind`` says what is made and how (``kinds``); ``done`` counts in its unit. ``token`` marks its temporary file, and
    ``delivery_document`` notes the checked file just before it gets its name, so that a kill in between loses nothing.
    ``attempts`` counts how often a worker began. ``made_s`` is what making and checking took without
    pauses; ``left_s`` is what is left of that, with its range. ``target_ids`` are the targets that it
    was added for, by which it can be planned again. ``needs_bytes`` is what it takes as far as a full disk has taught.
    ``note`` says what was made instead of what was planned, and why.
    The copy of a whole disc has a ``disc_path`` and no documents.
    """

    title = models.ForeignKey(Title, null=True, on_delete=models.SET_NULL, related_name="jobs")
    title_name = models.CharField(max_length=220)
    device_names = models.JSONField()
    device_ids = models.JSONField(default=list)
    summary = models.CharField(max_length=300)
    title_document = models.JSONField(default=dict)
    plan_document = models.JSONField(default=dict)
    device_documents = models.JSONField(default=list)
    duration_s = models.FloatField(default=0)
    expected = models.JSONField(default=dict)
    folder = models.TextField()
    disc_path = models.TextField(blank=True)
    kind = models.CharField(max_length=12, choices=JobKind, default=JobKind.CONVERT)
    request_document = models.JSONField(null=True)
    accept_loss = models.BooleanField(default=False)
    state = models.CharField(max_length=12, choices=JobState, default=JobState.WAITING)
    target_ids = models.JSONField(default=list)
    made_s = models.FloatField(null=True)
    position = models.PositiveIntegerField(default=0)
    token = models.CharField(max_length=40)
    attempts = models.PositiveIntegerField(default=0)
    delivery_document = models.JSONField(null=True)
    stop_requested = models.BooleanField(default=False)
    stage = models.CharField(max_length=10, blank=True)
    fraction = models.FloatField(default=0)
    done = models.FloatField(default=0)
    speed = models.FloatField(default=0)
    written_bytes = models.BigIntegerField(default=0)
    needs_bytes = models.BigIntegerField(default=0)
    left_s = models.FloatField(null=True)
    left_low_s = models.FloatField(null=True)
    left_high_s = models.FloatField(null=True)
    error_code = models.CharField(max_length=40, blank=True)
    error_message = models.TextField(blank=True)
    note = models.CharField(max_length=300, blank=True)
    started = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)
    added = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["position", "id"]
        indexes = [models.Index(fields=["state", "-ended"], name="job_by_state")]

    def own_row(self) -> models.QuerySet[Job]:
        """The row, for as long as this try is the one that counts: one that was taken over has another token."""
        return Job.objects.filter(pk=self.pk, token=self.token)

    def core_title(self) -> CoreTitle:
        return load(CoreTitle, self.title_document)

    def core_plan(self) -> Plan:
        return load(Plan, self.plan_document)

    def core_request(self) -> PlanRequest | None:
        return load(PlanRequest, self.request_document) if self.request_document else None

    def core_devices(self) -> list[DeviceProfile]:
        return [DeviceProfile.model_validate(document) for document in self.device_documents]


class MachineShare(models.TextChoices):
    """How much of the machine the making takes: all of it, or some cores are left to others, always or by day."""

    ALL = "all"
    LEAVE_ROOM = "leave room"
    BY_DAY = "leave room by day"


class Pace(models.Model):
    """One row: whether what waits may begin, and in which hours; until ``open_until`` they are not waited for.

    ``end`` names what is done when all is made, ``end_at`` the moment of it once that is so. ``at_once`` files are
    made beside each other; ``cores`` are used where room is left (``None``: half of them), the day being that of
    ``day_zone``. On battery nothing is made, unless ``battery_too``. ``hot``: so is the machine, until it has cooled.
    ``busy``: others want it, for which everything stands still where things are made ``only_idle``.
    ``told``: the last record that was told.
    """

    held = models.BooleanField(default=False)
    begins = models.TimeField(null=True)
    ends = models.TimeField(null=True)
    zone = models.CharField(max_length=60, blank=True)
    open_until = models.DateTimeField(null=True)
    end = models.CharField(max_length=80, blank=True)
    end_at = models.DateTimeField(null=True)
    end_failed = models.TextField(blank=True)
    at_once = models.PositiveSmallIntegerField(default=1)
    share = models.CharField(max_length=20, choices=MachineShare, default=MachineShare.ALL)
    cores = models.PositiveSmallIntegerField(null=True)
    day_zone = models.CharField(max_length=60, blank=True)
    battery_too = models.BooleanField(default=False)
    hot = models.BooleanField(default=False)
    only_idle = models.BooleanField(default=False)
    busy = models.BooleanField(default=False)
    told = models.PositiveBigIntegerField(null=True)

    @property
    def hours(self) -> Hours | None:
        if self.begins is None or self.ends is None:
            return None
        return Hours(begins=self.begins, ends=self.ends, zone=self.zone)

    @property
    def is_open(self) -> bool:
        """Whether it is an hour in which things are made, or none is waited for."""
        return self.hours is None or self.is_early or self.hours.is_open(timezone.now())

    @property
    def is_early(self) -> bool:
        """Whether hours are not waited for just now."""
        return self.open_until is not None and timezone.now() < self.open_until

    @property
    def next_change(self) -> datetime | None:
        """When it opens or closes next."""
        if self.hours is None:
            return None
        return self.open_until if self.is_early else self.hours.next_change(timezone.now())


class Record(models.Model):
    """What became of a job, for years: its row may go, this stays. Newest have the largest numbers.

    ``state`` is how it ended; ``file_name`` and ``size_bytes`` are of what was made, ``expected_bytes`` and
    ``expected_s`` what its plan said; ``words`` is what it is found by, all of it in lower case.
    """

    state = models.CharField(max_length=12, choices=JobState)
    kind = models.CharField(max_length=12, choices=JobKind)
    title_name = models.CharField(max_length=220)
    source_name = models.CharField(max_length=220, blank=True)
    device_names = models.JSONField(default=list)
    summary = models.CharField(max_length=300, blank=True)
    message = models.TextField(blank=True)
    file_name = models.CharField(max_length=260, blank=True)
    duration_s = models.FloatField(default=0)
    made_s = models.FloatField(null=True)
    expected_s = models.FloatField(default=0)
    size_bytes = models.BigIntegerField(default=0)
    expected_bytes = models.BigIntegerField(default=0)
    added = models.DateTimeField(null=True)
    started = models.DateTimeField(null=True)
    ended = models.DateTimeField()
    words = models.TextField()

    class Meta:
        ordering = ["-id"]
