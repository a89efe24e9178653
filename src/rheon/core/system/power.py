"""Whether the machine runs on its battery, and whether it is about to switch itself off for heat, where it tells."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

SUPPLIES, ZONES = Path("/sys/class/power_supply"), Path("/sys/class/thermal")
NEAR_C, COOL_C = 8.0, 20.0
"""Degrees below the point at which a machine ends itself: hot within the first, cool again below the second."""
LAST_POINTS = ("hot", "critical")
"""Trip points after which nothing helps (thermal sysfs driver how-to of the kernel); before them it slows itself."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Power:
    """Whether there is a battery, and whether the machine is living on it."""

    has_battery: bool
    on_battery: bool


def power(supplies: Path = SUPPLIES) -> Power:
    """By the kernel's power supply class (sysfs-class-power); batteries of mice and the like are none."""
    kinds = [(supply, _line(supply / "type")) for supply in _entries(supplies)]
    batteries = [supply for supply, kind in kinds if kind == "Battery" and _line(supply / "scope") != "Device"]
    fed = any(_line(supply / "online") == "1" for supply, kind in kinds if kind in ("Mains", "USB"))
    drained = any(_line(supply / "status") == "Discharging" for supply in batteries)
    return Power(has_battery=bool(batteries), on_battery=drained and not fed)


def is_hot(was_hot: bool, zones: Path = ZONES) -> bool:
    """Whether any part of the machine is too hot to go on; once it is, until it has cooled down well."""
    margin_c = COOL_C if was_hot else NEAR_C
    for zone in _entries(zones):
        now = _celsius(zone / "temp")
        ends = [
            point
            for trip in zone.glob("trip_point_*_type")
            if _line(trip) in LAST_POINTS
            and (point := _celsius(trip.with_name(trip.name.removesuffix("_type") + "_temp"))) is not None
        ]
        if now is not None and ends and now > min(ends) - margin_c:
            return True
    return False


def _celsius(path: Path) -> float | None:
    """A reading in thousandths of a degree; none where a zone gives none, or nonsense."""
    try:
        found = int(_line(path)) / 1000
    except ValueError:
        return None
    return found if 0 < found < 200 else None


def _entries(folder: Path) -> list[Path]:
    try:
        return sorted(folder.iterdir())
    except OSError:
        return []


def _line(path: Path) -> str:
    try:
        return path.read_text().strip()
    except (OSError, UnicodeDecodeError):
        return ""
