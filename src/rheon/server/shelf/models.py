"""Sources and their titles."""

from __future__ import annotations

from django.db import models

from rheon.core.media import Role, Samples
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load

from .folders import data_inside


class SourceState(models.TextChoices):
    WAITING = "waiting"
    READING = "reading"
    READY = "ready"
    FAILED = "failed"
    STOPPED = "stopped"


class Source(models.Model):
    """Something to read from. ``worker`` is the identity of the process that reads it."""

    path = models.TextField(unique=True)
    name = models.CharField(max_length=200)
    label = models.CharField(max_length=200, blank=True)
    kind = models.CharField(max_length=10, blank=True)
    form = models.CharField(max_length=10, blank=True)
    size_bytes = models.BigIntegerField(default=0)
    state = models.CharField(max_length=10, choices=SourceState, default=SourceState.WAITING)
    at_title = models.PositiveIntegerField(default=0)
    title_count = models.PositiveIntegerField(default=0)
    stop_requested = models.BooleanField(default=False)
    error_code = models.CharField(max_length=40, blank=True)
    error_message = models.TextField(blank=True)
    problems = models.JSONField(default=list)
    worker = models.CharField(max_length=40, blank=True)
    added = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]


class Title(models.Model):
    """One playable programme. ``document`` is the core's value; ``outline`` is what the Shelf's list shows of it."""

    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="titles")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=220)
    duration_s = models.FloatField()
    role = models.CharField(max_length=12, choices=[(role.value, role.value) for role in Role])
    document = models.JSONField()
    outline = models.JSONField(default=dict)
    samples = models.JSONField(null=True)

    class Meta:
        ordering = ["source_id", "number"]
        constraints = [models.UniqueConstraint(fields=["source", "number"], name="title_number_in_source")]

    def core_title(self) -> CoreTitle:
        return load(CoreTitle, self.document)

    def core_samples(self) -> Samples | None:
        return load(Samples, self.samples) if self.samples else None

    def readable_title(self) -> CoreTitle:
        """The title for reading its data. Raises ``OutsideFolders`` where they have moved out of the media folders."""
        return data_inside(self.core_title())
