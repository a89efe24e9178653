"""The people's devices and what they like."""

from __future__ import annotations

from django.db import models

from rheon.core.devices import DeviceProfile


class Device(models.Model):
    """A device the household owns: a name of its own over a profile."""

    name = models.CharField(max_length=80)
    profile = models.JSONField()
    position = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["position", "id"]

    def core_profile(self) -> DeviceProfile:
        return DeviceProfile.model_validate(self.profile)


class Household(models.Model):
    """One row: languages as BCP 47 tags, the dearest first."""

    languages = models.JSONField(default=list)
