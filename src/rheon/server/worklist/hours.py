"""The hours in which things are made: a part of each day, by the clock of who set it. Pure."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from rheon.core.errors import SettingsRefused


def known_zone(zone: str) -> str:
    """Raises ``SettingsRefused`` for a time zone that this machine doesn't know."""
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise SettingsRefused("The time zone {zone} is not known here.", zone=zone, advice="") from error
    return zone


@dataclass(frozen=True, slots=True, kw_only=True)
class Hours:
    """From one time of day until another, over midnight where that is earlier, in a time zone of the IANA's list."""

    begins: time
    ends: time
    zone: str

    def is_open(self, at: datetime) -> bool:
        """Whether a moment lies in it; where both times are the same, all do."""
        now = at.astimezone(ZoneInfo(self.zone)).time()
        if self.begins < self.ends:
            return self.begins <= now < self.ends
        return now >= self.begins or now < self.ends

    def next_change(self, at: datetime) -> datetime:
        """When it closes where it is open at a moment, else when it opens."""
        return self._next(self.ends if self.is_open(at) else self.begins, at)

    def next_end(self, at: datetime) -> datetime:
        """The first end behind a moment."""
        return self._next(self.ends, at)

    def _next(self, moment: time, at: datetime) -> datetime:
        local = at.astimezone(ZoneInfo(self.zone))
        found = datetime.combine(local.date(), moment, local.tzinfo)
        # the same time of the next day, however long that day is
        return found if found > local else datetime.combine(local.date() + timedelta(days=1), moment, local.tzinfo)
