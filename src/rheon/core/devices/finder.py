"""The nearest profiles for a device that is in no list, from a few plain answers. Pure."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from ..media import Reason
from .profile import DeviceKind, DeviceProfile

UHD_LINES = 2160
KIN: dict[DeviceKind, frozenset[DeviceKind]] = {
    kind: frozenset(group)
    for group in (
        {DeviceKind.PHONE, DeviceKind.TABLET, DeviceKind.POCKET, DeviceKind.CONSOLE},
        {DeviceKind.TV, DeviceKind.PLAYER, DeviceKind.PROJECTOR},
        {DeviceKind.COMPUTER, DeviceKind.BROWSER},
        {DeviceKind.CAR},
        {DeviceKind.SOUND},
    )
    for kind in group
}
"""Kinds that play alike."""
OTHER_KIND, OTHER_KIN = 2.0, 6.0
YEAR, NEWER_YEAR = 0.35, 0.7
"""A profile newer than the device promises what it may not keep, so its years count double."""
SCREEN, UHD = 2.0, 5.0
GENERIC = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Answers:
    """What a person can say of a device; ``None`` for what they do not know. The screen is in pixels, held wide."""

    kind: DeviceKind | None = None
    year: int | None = None
    screen_width: int | None = None
    screen_height: int | None = None
    plays_uhd: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """A profile, how far it is from the answers (0 is the same), and what differs."""

    profile: DeviceProfile
    distance: float
    differences: tuple[Reason, ...]


def nearest(answers: Answers, profiles: Iterable[DeviceProfile], count: int = 5) -> tuple[Match, ...]:
    """The profiles nearest to the answers, the nearest first; among equals the one that promises less."""
    found = [_match(answers, profile) for profile in profiles]
    return tuple(sorted(found, key=lambda match: (match.distance, match.profile.year or 0, match.profile.id))[:count])


def plays_uhd(profile: DeviceProfile) -> bool:
    return any(entry.max_height >= UHD_LINES for entry in profile.video)


def _match(answers: Answers, profile: DeviceProfile) -> Match:
    parts = [
        part
        for part in (
            _kind(answers, profile),
            _year(answers, profile),
            _screen(answers, profile),
            _uhd(answers, profile),
        )
        if part
    ]
    extra = GENERIC if profile.generic else 0.0
    return Match(
        profile=profile,
        distance=round(sum(distance for distance, _ in parts) + extra, 3),
        differences=tuple(reason for _, reason in parts),
    )


Part = tuple[float, Reason] | None


def _kind(answers: Answers, profile: DeviceProfile) -> Part:
    if answers.kind is None or answers.kind is profile.kind:
        return None
    distance = OTHER_KIND if profile.kind in KIN.get(answers.kind, frozenset()) else OTHER_KIN
    return distance, Reason(code="other_kind", values={"theirs": profile.kind.value, "yours": answers.kind.value})


def _year(answers: Answers, profile: DeviceProfile) -> Part:
    if answers.year is None or profile.year is None or answers.year == profile.year:
        return None
    newer = profile.year > answers.year
    distance = abs(profile.year - answers.year) * (NEWER_YEAR if newer else YEAR)
    code = "newer_than_yours" if newer else "older_than_yours"
    return distance, Reason(code=code, values={"years": abs(profile.year - answers.year)})


def _screen(answers: Answers, profile: DeviceProfile) -> Part:
    if not answers.screen_width or not answers.screen_height or profile.screen is None:
        return None
    theirs, yours = profile.screen.width * profile.screen.height, answers.screen_width * answers.screen_height
    apart = abs(math.log2(theirs / yours))
    if apart < 0.05:
        return None
    size = f"{profile.screen.width} × {profile.screen.height}"
    return apart * SCREEN / 2, Reason(
        code="larger_screen" if theirs > yours else "smaller_screen", values={"size": size}
    )


def _uhd(answers: Answers, profile: DeviceProfile) -> Part:
    if answers.plays_uhd is None or answers.plays_uhd is plays_uhd(profile):
        return None
    return UHD, Reason(code="lacks_uhd" if answers.plays_uhd else "has_uhd")
