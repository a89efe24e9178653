"""The whole way from a plan to a checked file under its name."""

from __future__ import annotations

import shutil
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from ..checking import Check, CheckRequest, check_file
from ..devices import DeviceProfile
from ..encoding import Hooks, make_file, part_path, remove, side_parts
from ..errors import CheckFailed, PlanError, TargetFull
from ..media import Title
from ..media.sentences import RULE_NAMES
from ..planning import Plan
from .place import put_in_place


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """A plan to carry out, the devices whose rules the file must keep, and where it goes."""

    title: Title
    plan: Plan
    devices: Sequence[DeviceProfile]
    folder: Path
    token: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Delivered:
    """A checked file. ``making_s`` is the engine's time, ``checking_s`` that of all checks."""

    path: Path
    size_bytes: int
    making_s: float
    checking_s: float
    checks: tuple[Check, ...]


def convert(order: Order, hooks: Hooks | None = None) -> Delivered:
    """Make, check, and only then name the file. Whatever is raised, nothing is left in the folder.

    Raises ``PlanError`` (nothing to make), ``TargetError``, ``SourceError``, ``EngineError``, ``CheckFailed`` or
    ``Stopped``.
    """
    settings = order.plan.settings
    if settings is None:
        raise PlanError("There is nothing to make for this title and device.")
    hooks = hooks or Hooks()
    _check_room(order)
    part = part_path(order.folder, order.token)
    made = make_file(order.title, settings, part, hooks)
    try:
        checks, checking_s = _checked(order, made.part, hooks)
        size = made.part.stat().st_size
        path = put_in_place(made.part, settings.file_name)
        for track, side in side_parts(part).items():
            put_in_place(side, f"{path.stem}.{order.title.subtitles[track].language}.srt")
    finally:
        remove(part)
    return Delivered(path=path, size_bytes=size, making_s=made.seconds, checking_s=checking_s, checks=checks)


def _check_room(order: Order) -> None:
    expected = order.plan.estimate
    if expected and order.folder.is_dir():
        free = shutil.disk_usage(order.folder).free
        if free < expected.size_low_bytes:
            raise TargetFull(
                f"The file will take about {expected.size_bytes / 1e6:.0f} MB and only {free / 1e6:.0f} MB are free."
            )


def _checked(order: Order, part: Path, hooks: Hooks) -> tuple[tuple[Check, ...], float]:
    started = time.monotonic()
    settings = order.plan.settings
    assert settings
    checks = tuple(
        check_file(
            CheckRequest(
                path=part,
                profile=profile,
                settings=settings,
                file_name=settings.file_name,
                should_stop=hooks.should_stop,
            )
        )
        for profile in order.devices
    )
    # what was set by hand against a rule is made as it was asked for, and the check keeps saying so
    accepted = {(breach.device_id, breach.rule) for breach in order.plan.breaches}
    failed = [
        (check.device_id, result)
        for check in checks
        for result in check.results
        if not result.ok and (check.device_id, result.rule) not in accepted
    ]
    if failed:
        device, rule = failed[0]
        raise CheckFailed(
            f"The file did not keep a rule of {device}: {RULE_NAMES[rule.rule]} came out as {rule.measured},"
            f" allowed is {rule.allowed}.",
            rules=[result for _, result in failed],
        )
    return checks, time.monotonic() - started
