"""Picked titles, what was set by hand for a title on a device, and pins kept under a name."""

from __future__ import annotations

from django.db import models

from rheon.core.planning import Balance
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title


class Pick(models.Model):
    title = models.OneToOneField(Title, on_delete=models.CASCADE, related_name="pick")


class Setting(models.Model):
    """Balance (empty for the Bench's) and pins of one cell of the crossing table."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE)
    device = models.ForeignKey(Device, on_delete=models.CASCADE)
    balance = models.CharField(max_length=5, blank=True)
    pins = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["title", "device"], name="setting_of_cell")]


class PinSet(models.Model):
    """Pins that people use again, under a name."""

    name = models.CharField(max_length=80, unique=True)
    balance = models.CharField(max_length=5, blank=True)
    pins = models.JSONField(default=dict)

    class Meta:
        ordering = ["name"]


class Bench(models.Model):
    """One row: the balance that holds where a cell has none of its own."""

    balance = models.CharField(max_length=5, default=Balance.EVEN.value)
