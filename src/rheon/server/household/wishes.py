"""What is liked where a file is going."""

from __future__ import annotations

from dataclasses import dataclass

from rheon.core.planning import SoundWish, SubtitleWish

from .models import Device, Household, Wishes

DEFAULT_LANGUAGES = ("en",)


@dataclass(frozen=True, slots=True, kw_only=True)
class Liked:
    """What is liked where a file is going, every question answered."""

    languages: tuple[str, ...]
    sound: SoundWish
    subtitles: SubtitleWish


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
        subtitles=SubtitleWish(next((row.subtitles for row in asked if row.subtitles), SubtitleWish.NEEDED.value)),
    )
