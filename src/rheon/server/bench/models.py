"""Picked titles, what files are made for, what was set by hand for one of them, and pins kept under a name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from django.db import models

from rheon.core.devices import DeviceKind, DeviceProfile, goals
from rheon.core.errors import NoSuchDevice
from rheon.core.planning import Balance
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title


class Pick(models.Model):
    title = models.OneToOneField(Title, on_delete=models.CASCADE, related_name="pick")


@dataclass(frozen=True, slots=True, kw_only=True)
class Recipient:
    """Whom a file is for: a device by the name it has at home, or a goal, which is no device of anybody's."""

    name: str
    profile: DeviceProfile
    device_id: int | None

    @property
    def named(self) -> DeviceProfile:
        return self.profile.model_copy(update={"name": self.name})


class TargetKind(models.TextChoices):
    DEVICE = "device"
    SHARED = "shared"
    GOAL = "goal"


class Target(models.Model):
    """What files are made for, a column of the Bench: a device, several that share a file, or a goal without a device.

    Every device is a target (``bindings.py``). ``shares`` are the devices of a ``SHARED`` one, ``goal`` is the id of a
    goal's profile. ``used`` counts the files that were made for a target that is no device: a device counts its own.
    """

    kind = models.CharField(max_length=6, choices=TargetKind, default=TargetKind.DEVICE)
    device = models.OneToOneField(Device, null=True, on_delete=models.CASCADE, related_name="target")
    shares = models.ManyToManyField(Device, related_name="shared_by")
    goal = models.CharField(max_length=80, blank=True)
    used = models.PositiveIntegerField(default=0)
    last_used = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

    @property
    def name(self) -> str:
        if self.goal:
            return self.recipients[0].name
        return " + ".join(device.name for device in self.devices)

    @cached_property
    def devices(self) -> list[Device]:
        """The household's devices that a file for it is for; none for a goal."""
        return [self.device] if self.device else list(self.shares.all())

    @cached_property
    def recipients(self) -> tuple[Recipient, ...]:
        """Whom a file for it is for. Raises ``NoSuchDevice`` for a goal that is not shipped any more."""
        if self.goal and self.goal not in goals():
            raise NoSuchDevice("There is no goal called {device}.", device=self.goal)
        if self.goal:
            goal = goals()[self.goal]
            return (Recipient(name=goal.name.partition(",")[0], profile=goal, device_id=None),)
        found = ((device, device.core_profile()) for device in self.devices)
        return tuple(Recipient(name=device.name, profile=profile, device_id=device.pk) for device, profile in found)

    @property
    def device_kind(self) -> DeviceKind:
        """By which it is drawn."""
        return self.recipients[0].profile.kind

    @property
    def profiles(self) -> tuple[DeviceProfile, ...]:
        """What a file is made for, by the names they have at home."""
        return tuple(recipient.named for recipient in self.recipients)

    @property
    def free_bytes(self) -> int | None:
        """What is known to be free wherever the file is to go."""
        return min((device.free_bytes for device in self.devices if device.free_bytes is not None), default=None)

    @property
    def largest_file_bytes(self) -> int | None:
        """The largest file that every device takes for which one is made."""
        bounds = (recipient.profile.limits.largest_file_bytes for recipient in self.recipients)
        return min((bound for bound in bounds if bound), default=None)


class CellOverride(models.Model):
    """Balance (empty for the Bench's) and pins of one cell of the crossing table."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE)
    target = models.ForeignKey(Target, on_delete=models.CASCADE)
    balance = models.CharField(max_length=5, blank=True)
    pins = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["title", "target"], name="override_of_cell")]


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
