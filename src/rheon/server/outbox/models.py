"""Outputs: files that jobs made, with their checks, and their way onto devices."""

from __future__ import annotations

from uuid import uuid4

from django.db import models

from rheon.server.claims import Leased
from rheon.server.codes import Coded
from rheon.server.household.models import Device
from rheon.server.worklist.models import Job


class ArtworkWanted(models.TextChoices):
    """What becomes of the artwork in a file."""

    KEPT = "kept"
    OF_TITLE = "title"
    NONE = "none"


class Output(models.Model):
    """A finished file; ``held`` says that no rule of its checks was broken, ``is_sample`` that it is only to be tried.

    Names and expectations are kept with it, so it outlives its job on the list. ``reports`` hold, in the order in which
    they came, what people saw when they played it: device, and ``trouble`` or null for none. ``tags`` are what is
    written in it, ``tags_wanted`` what is to be, with its ``name`` where it is to be called anew and what becomes of
    its ``artwork``; ``tags_error`` why it is not, ``tagged`` when that was last tried. ``own_tags`` are the names of
    those that were set for this file alone.
    """

    job = models.OneToOneField(Job, null=True, on_delete=models.SET_NULL)
    title_id = models.BigIntegerField(null=True)
    title_name = models.CharField(max_length=220)
    device_names = models.JSONField()
    device_ids = models.JSONField(default=list)
    reports = models.JSONField(default=list)
    summary = models.CharField(max_length=300)
    path = models.TextField()
    size_bytes = models.BigIntegerField()
    duration_s = models.FloatField(default=0)
    making_s = models.FloatField()
    checking_s = models.FloatField()
    expected = models.JSONField()
    checks = models.JSONField()
    held = models.BooleanField(default=True)
    is_sample = models.BooleanField(default=False)
    tags = models.JSONField(default=dict)
    container = models.CharField(max_length=20, blank=True)
    own_tags = models.JSONField(default=list)
    tags_wanted = models.JSONField(null=True)
    tags_error = models.TextField(blank=True)
    tagged = models.DateTimeField(null=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class Storage(models.Model):
    """Where the files for a device go, or without one the library's: a volume by its ``volume_id``, and a folder on it.

    ``label``, how large it is, what is free and ``seen`` are as it was plugged in last. ``wishes`` are outputs in the
    order in which they are wished for; all others come after them, by their names.
    """

    device = models.OneToOneField(Device, null=True, on_delete=models.CASCADE, related_name="storage")
    volume_id = models.CharField(max_length=300)
    label = models.CharField(max_length=200)
    folder = models.CharField(max_length=300, blank=True)
    total_bytes = models.BigIntegerField(null=True)
    free_bytes = models.BigIntegerField(null=True)
    seen = models.DateTimeField(null=True)
    wishes = models.JSONField(default=list)


class HandoverState(models.TextChoices):
    WAITING = "waiting"
    COPYING = "copying"
    VERIFYING = "verifying"
    DONE = "done"
    FAILED = "failed"


UNDER_WAY = (HandoverState.COPYING, HandoverState.VERIFYING)
TO_COME = (HandoverState.WAITING, *UNDER_WAY)


class Handover(Leased):
    """One output on its way onto a device, or into the library where that is null, or there.

    ``path`` is where it lies below the volume's folder, ``name`` what it is to be called, ``volume_id`` where it
    went. ``replaces``: another file of its name gives way to it. What was gone when its turn came waits, with why in
    ``error_message``; ``attempts`` counts how often a worker began.
    """

    output = models.ForeignKey(Output, on_delete=models.CASCADE, related_name="handovers")
    device = models.ForeignKey(Device, null=True, on_delete=models.CASCADE, related_name="handovers")
    state = models.CharField(max_length=12, choices=HandoverState, default=HandoverState.WAITING)
    name = models.TextField()
    volume_id = models.CharField(max_length=300)
    path = models.TextField(blank=True)
    size_bytes = models.BigIntegerField()
    done_bytes = models.BigIntegerField(default=0)
    was_there = models.BooleanField(default=False)
    replaces = models.BooleanField(default=False)
    attempts = models.PositiveIntegerField(default=0)
    stop_requested = models.BooleanField(default=False)
    error_code = models.CharField(max_length=40, blank=True)
    error_message = models.TextField(blank=True)
    added = models.DateTimeField(auto_now_add=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["output", "device"], name="one_handover")]

    @property
    def fraction(self) -> float:
        """How far it is; the first half is writing, the second verifying."""
        return self.done_bytes / max(1, self.size_bytes)

    @property
    def coming_bytes(self) -> int:
        """What it has still to take of what is free, if it is to come."""
        return round(self.size_bytes * max(0.0, 1 - 2 * self.fraction))


class PickUp(Coded):
    """One row: the page for picking files up on the home network.

    ``outputs`` are the files that it gives, ``fetched`` when the end of each was given last, ``device`` the one that is
    meant to come, if it is known which.
    """

    outputs = models.JSONField(default=list)
    fetched = models.JSONField(default=dict)
    device = models.ForeignKey(Device, null=True, on_delete=models.SET_NULL, related_name="+")


class MediaServer(models.Model):
    """One row: this installation as TVs of the home network know it, and why it can't be found, if it can't."""

    uid = models.UUIDField(default=uuid4)
    problem = models.TextField(blank=True)


class NetworkFolder(models.Model):
    """A device whose files the home network sees, in a folder of its name.

    ``token`` stands in the address of each file; shown anew, it is another. ``seen`` is when somebody last looked into
    it, ``fetched`` when a file, ``fetched_output``, was last asked for, by the address ``fetched_by``.
    """

    device = models.OneToOneField(Device, on_delete=models.CASCADE, related_name="network_folder")
    token = models.CharField(max_length=40)
    seen = models.DateTimeField(null=True)
    fetched = models.DateTimeField(null=True)
    fetched_by = models.CharField(max_length=60, blank=True)
    fetched_output = models.BigIntegerField(null=True)


class LibraryLook(models.Model):
    """One row: looking through the library, ``wanted`` until it has come to its end or was stopped.

    ``place`` is the volume and folder whose files are known, ``looked`` when the last look ended, ``problem`` why it
    did not.
    """

    wanted = models.BooleanField(default=False)
    place = models.TextField(blank=True)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    looked = models.DateTimeField(null=True)
    problem = models.TextField(blank=True)


class LibraryFile(models.Model):
    """A file of the library as it was looked at last; ``same_as`` is the first one with the same content, if any."""

    path = models.TextField(unique=True)
    size_bytes = models.BigIntegerField()
    mtime_ns = models.BigIntegerField()
    sample = models.CharField(max_length=40)
    facts = models.JSONField(null=True)
    trouble = models.TextField(blank=True)
    same_as = models.TextField(blank=True)

    class Meta:
        ordering = ["path"]
