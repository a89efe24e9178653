"""Reading the household."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from django.utils import timezone

from rheon.core.planning import SoundWish, WordsWish

from .models import Column, Device, Household, Member, Wishes

DEFAULT_LANGUAGES = ("en",)
FADES_DAYS = 30.0
ORDER = {Column.DEVICE: 0, Column.SHARED: 1, Column.GOAL: 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class Liked:
    """What is liked where a file is going, every question answered."""

    languages: tuple[str, ...]
    sound: SoundWish
    words: WordsWish


def languages() -> tuple[str, ...]:
    row = Household.objects.first()
    return tuple(row.languages) if row else DEFAULT_LANGUAGES


def household_wishes() -> Household:
    return Household.objects.first() or Household(languages=list(DEFAULT_LANGUAGES))


def liked(device: Device | None, everyone: Household | None = None) -> Liked:
    """The device's own word first, then its member's, then the household's."""
    everyone = everyone or household_wishes()
    asked: list[Wishes] = [row for row in (device, device.member if device else None, everyone) if row is not None]
    return Liked(
        languages=next((tuple(row.languages) for row in asked if row.languages), ()),
        sound=SoundWish(next((row.sound for row in asked if row.sound), SoundWish.SURROUND.value)),
        words=WordsWish(next((row.words for row in asked if row.words), WordsWish.NEEDED.value)),
    )


def usual_first(rows: Sequence[Device], now: datetime | None = None) -> list[Device]:
    """Devices before shared files before goals; in each favourites first, then what is used most and latest."""
    at = now or timezone.now()

    def worth(row: Device) -> float:
        if row.last_used is None:
            return 0.0
        days = (at - row.last_used).total_seconds() / 86400
        return float(row.used * 0.5 ** (days / FADES_DAYS))

    def place(row: Device) -> tuple[int, bool, float, int, int]:
        return ORDER[Column(row.column)], not row.favourite, -round(worth(row), 1), row.position, row.pk

    return sorted(rows, key=place)


def columns() -> list[Device]:
    """Everything a file can be made for, in the order of the Bench."""
    return usual_first(list(Device.objects.select_related("member").prefetch_related("shares")))


def devices() -> list[Device]:
    """Only the devices that people own."""
    found = Device.objects.filter(column=Column.DEVICE).select_related("member")
    return usual_first(list(found))


def members() -> list[Member]:
    return list(Member.objects.prefetch_related("devices"))
