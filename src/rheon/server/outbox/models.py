"""Outputs: files that jobs made, with their checks."""

from __future__ import annotations

from django.db import models

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
    its ``artwork``; ``tags_error`` why it is not. ``own_tags`` are the names of those that were set for this file
    alone.
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
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
