"""The people, their devices and what they like."""

from __future__ import annotations

from django.db import models

from rheon.core.devices import DeviceProfile
from rheon.core.planning import SoundWish, WordsWish

SOUND_WISHES = [(wish.value, wish.value) for wish in SoundWish]
WORDS_WISHES = [(wish.value, wish.value) for wish in WordsWish]


class Wishes(models.Model):
    """What somebody likes to hear and read; empty for what they leave to whoever is asked next."""

    languages = models.JSONField(default=list)
    sound = models.CharField(max_length=8, choices=SOUND_WISHES, blank=True)
    words = models.CharField(max_length=8, choices=WORDS_WISHES, blank=True)

    class Meta:
        abstract = True


class Household(Wishes):
    """One row: what holds where neither a device nor its member says otherwise."""


class Member(Wishes):
    """Somebody of the household: what they like holds on their devices."""

    name = models.CharField(max_length=80)

    class Meta:
        ordering = ["id"]


class Column(models.TextChoices):
    """What a row of the Bench's devices is: a device, several that share a file, or a goal without a device."""

    DEVICE = "device"
    SHARED = "shared"
    GOAL = "goal"


class Device(Wishes):
    """A device the household owns: a name of its own over a profile. Also what else a file can be made for.

    ``base`` is the catalogue's profile as it was taken, null for one of somebody's own: what differs from it was
    learned or written here. ``before`` is the profile before the catalogue last changed it, ``news`` what changed then,
    until somebody has seen it. ``shares`` are the devices of a ``SHARED`` one, whose own profile is unused.
    ``free_bytes`` is what somebody said is free on it. ``used`` counts the files that were made for it.
    """

    name = models.CharField(max_length=80)
    profile = models.JSONField(default=dict)
    base = models.JSONField(null=True)
    before = models.JSONField(null=True)
    news = models.JSONField(default=list)
    favourite = models.BooleanField(default=False)
    position = models.PositiveIntegerField(default=0)
    column = models.CharField(max_length=6, choices=Column, default=Column.DEVICE)
    shares = models.ManyToManyField("self", symmetrical=False, related_name="shared_in")
    member = models.ForeignKey(Member, null=True, on_delete=models.SET_NULL, related_name="devices")
    free_bytes = models.BigIntegerField(null=True)
    used = models.PositiveIntegerField(default=0)
    last_used = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position", "id"]

    def core_profile(self) -> DeviceProfile:
        """The profile of a device or goal."""
        return DeviceProfile.model_validate(self.profile)

    def base_profile(self) -> DeviceProfile | None:
        """The catalogue's profile that it was taken from, as it was."""
        return DeviceProfile.model_validate(self.base) if self.base else None

    def served(self) -> list[Device]:
        """The devices that a file made for this one is for."""
        return list(self.shares.all()) if self.column == Column.SHARED else [self]

    def core_profiles(self) -> tuple[DeviceProfile, ...]:
        """The profiles a file is made for, by the names they have at home."""
        return tuple(device.core_profile().model_copy(update={"name": device.name}) for device in self.served())


class Asking(models.Model):
    """One row: the door through which a device is asked. It is open until ``open_until`` for whoever knows the code.

    ``profile`` is what the last device answered, until somebody takes or drops it.
    """

    code = models.CharField(max_length=12, blank=True)
    open_until = models.DateTimeField(null=True)
    wrong_tries = models.PositiveIntegerField(default=0)
    address = models.CharField(max_length=120, blank=True)
    at_clip = models.PositiveIntegerField(default=0)
    profile = models.JSONField(null=True)
    problem = models.TextField(blank=True)
