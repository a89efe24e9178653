"""The people, their devices and what they like."""

from __future__ import annotations

from django.db import models

from rheon.core.devices import DeviceProfile
from rheon.core.planning import SoundWish, SubtitleWish
from rheon.server.codes import Coded

SOUND_WISHES = [(wish.value, wish.value) for wish in SoundWish]
SUBTITLE_WISHES = [(wish.value, wish.value) for wish in SubtitleWish]


class Wishes(models.Model):
    """What somebody likes to hear and read; empty for what they leave to whoever is asked next."""

    languages = models.JSONField(default=list)
    sound = models.CharField(max_length=8, choices=SOUND_WISHES, blank=True)
    subtitles = models.CharField(max_length=8, choices=SUBTITLE_WISHES, blank=True)

    class Meta:
        abstract = True


class Household(Wishes):
    """One row: what holds where neither a device nor its member says otherwise."""


class Member(Wishes):
    """Somebody of the household: what they like holds on their devices."""

    name = models.CharField(max_length=80)

    class Meta:
        ordering = ["id"]


class Device(Wishes):
    """A device the household owns: a name of its own over a profile.

    ``base`` is the catalogue's profile as it was taken, null for one of somebody's own: what differs from it was
    learned or written here. ``before`` is the profile before the catalogue last changed it, ``news`` what changed then,
    until somebody has seen it. ``free_bytes`` is what somebody or its stick said is free on it, ``used`` counts
    the files that were made for it.
    """

    name = models.CharField(max_length=80)
    profile = models.JSONField()
    base = models.JSONField(null=True)
    before = models.JSONField(null=True)
    news = models.JSONField(default=list)
    favourite = models.BooleanField(default=False)
    position = models.PositiveIntegerField(default=0)
    member = models.ForeignKey(Member, null=True, on_delete=models.SET_NULL, related_name="devices")
    free_bytes = models.BigIntegerField(null=True)
    used = models.PositiveIntegerField(default=0)
    last_used = models.DateTimeField(null=True)

    class Meta:
        ordering = ["position", "id"]

    def core_profile(self) -> DeviceProfile:
        return DeviceProfile.model_validate(self.profile)

    def base_profile(self) -> DeviceProfile | None:
        """The catalogue's profile that it was taken from, as it was."""
        return DeviceProfile.model_validate(self.base) if self.base else None


class Pairing(Coded):
    """One row: the page that asks a device what it plays.

    ``profile`` is what the last device answered, until somebody takes or drops it.
    """

    at_clip = models.PositiveIntegerField(default=0)
    profile = models.JSONField(null=True)
