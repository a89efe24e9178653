"""The whole way from a plan to a checked file under its name."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from ..checking import Check, CheckRequest, check_file, ends_wanted
from ..devices import DeviceProfile
from ..encoding import Hooks, Made, Progress, make_file, part_path, remove_part, side_parts
from ..errors import (
    CheckFailed,
    EngineError,
    EngineKilled,
    LossNotAccepted,
    NotWhole,
    PlanError,
    RheonError,
    SourceMissing,
    TargetFull,
)
from ..media import FileData, OutputSettings, Reason, Title
from ..planning import Plan
from ..tagging import write_tags
from ..wording import ends_early_text, rule_name, sides
from .artwork import ARTWORK_SUFFIX, artwork_for, artwork_part
from .place import put_in_place

LOST = (
    "source_whole", "picture_whole", "pictures_joined", "pictures_even", "pictures_shown", "sound_whole",
    "read_through", "length",
)  # fmt: skip
"""Rules that a damaged source breaks, and no choice of device or balance mends."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Order:
    """A plan to carry out, the devices whose rules the file must keep, and where it goes.

    ``accept_loss``: a source whose end is missing is made into a file all the same.
    """

    title: Title
    plan: Plan
    devices: Sequence[DeviceProfile]
    folder: Path
    token: str
    accept_loss: bool = False
    made_for: str = ""
    """Names of its devices: told in the file's name where another file has that already."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Delivered:
    """A checked file. ``making_s`` is the engine's time, ``checking_s`` that of all checks; ``told`` is what is to be
    known of it, if anything.
    """

    path: Path
    size_bytes: int
    making_s: float
    checking_s: float
    checks: tuple[Check, ...]
    told: Reason | None = None


Note = Callable[[Delivered], None]
"""Hears of a checked file under the name that it is about to get: what is noted then can be taken up after a kill."""


Heed = Callable[[Plan, RheonError], None]
"""Hears of the plan that is carried out instead of the one that was asked for, and what became of that."""


def _unheeded(plan: Plan, error: RheonError) -> None:
    return None


def convert(
    order: Order, hooks: Hooks | None = None, note: Note | None = None, on_instead: Heed = _unheeded
) -> Delivered:
    """Make, check, and only then name the file. Whatever is raised, nothing is left in the folder.

    Where the file does not pass and the plan says what to make ``instead``, that is made; ``on_instead`` hears of it
    first.

    Raises ``PlanError`` (nothing to make), ``TargetError``, ``SourceError``, ``EngineError``, ``CheckFailed`` or
    ``Stopped``.
    """
    settings = order.plan.settings
    if settings is None:
        raise PlanError("There is nothing to make for this title and device.")
    hooks = hooks or Hooks()
    _check_loss(order)
    _check_room(order)
    instead = order.plan.instead
    if instead is None:
        return _converted(order, settings, hooks, note)
    try:
        return _converted(order, settings, hooks, note)
    except EngineKilled:
        raise
    except (CheckFailed, NotWhole, EngineError) as error:
        on_instead(instead, error)
        return convert(replace(order, plan=instead), hooks, note, on_instead)


def _converted(order: Order, settings: OutputSettings, hooks: Hooks, note: Note | None) -> Delivered:
    part = part_path(order.folder, order.token)
    made = make_file(order.title, settings, part, hooks)
    try:
        artwork, lacking = artwork_for(order.title, settings)
        write_tags(made.part, settings.container, settings.tags, artwork if settings.cover_place.inside else None)
        if artwork and settings.cover_place.beside:
            artwork_part(part).write_bytes(artwork)
        checks, checking_s = _checked(order, made, hooks)
        size = made.part.stat().st_size
        done = Delivered(
            path=made.part,
            size_bytes=size,
            making_s=made.seconds,
            checking_s=checking_s,
            checks=checks,
            told=lacking,
        )
        return _named(order, done, note)
    finally:
        remove_part(part)


def take_up(order: Order, noted: Delivered) -> Delivered | None:
    """Bring a naming that was cut short to its end: the file has its name afterwards.

    ``None`` where neither the checked part nor the file with the noted name is there. Raises ``TargetError``.
    """
    part = part_path(order.folder, order.token)
    if _has_size(part, noted) and not (noted.path.exists() and part.samefile(noted.path)):
        done = _named(order, replace(noted, path=part), None)
    elif _has_size(noted.path, noted):
        _name_sides(order, part, noted.path)
        done = noted
    else:
        return None
    remove_part(part)
    return done


def _has_size(path: Path, noted: Delivered) -> bool:
    return path.is_file() and path.stat().st_size == noted.size_bytes


def _named(order: Order, done: Delivered, note: Note | None) -> Delivered:
    assert order.plan.settings
    about_to = None if note is None else (lambda target: note(replace(done, path=target)))
    path = put_in_place(done.path, order.plan.settings.file_name, about_to, made_for=order.made_for)
    _name_sides(order, done.path, path)
    return replace(done, path=path)


def _name_sides(order: Order, part: Path, path: Path) -> None:
    below = path.parent.relative_to(order.folder)
    if artwork_part(part).exists():
        put_in_place(artwork_part(part), str(below / f"{path.stem}{ARTWORK_SUFFIX}"))
    for track, side in side_parts(part).items():
        put_in_place(side, str(below / f"{path.stem}.{order.title.subtitles[track].language}.srt"))


def _check_loss(order: Order) -> None:
    parts = order.title.joined or (order.title,)
    title = next((part for part in parts if part.promised_s is not None), parts[0])
    if title.promised_s is not None and isinstance(title.data, FileData) and not order.accept_loss:
        lost = ends_early_text(title.duration_s, title.promised_s)
        raise LossNotAccepted("{file} {lost}.", file=Path(title.data.path).name, lost=lost)


def _check_room(order: Order) -> None:
    expected = order.plan.estimate
    if expected and order.folder.is_dir():
        free = shutil.disk_usage(order.folder).free
        if free < expected.size_low_bytes:
            raise TargetFull(
                "The file will take about {needed_mb:.0f} MB and only {free_mb:.0f} MB are free.",
                needed_mb=expected.size_bytes / 1e6,
                free_mb=free / 1e6,
            )


def _checked(order: Order, made: Made, hooks: Hooks) -> tuple[tuple[Check, ...], float]:
    started_s = hooks.clock.worked_s
    settings = order.plan.settings
    assert settings
    try:
        ends = ends_wanted(order.title, settings)
    except OSError as error:
        raise SourceMissing("The source went away before the file could be checked.") from error
    size_bytes = made.part.stat().st_size

    def on_read(read_s: float) -> None:
        """What was made, once more, and how much of it was checked."""
        whole_s = settings.duration_s
        step = Progress(
            done=whole_s,
            total=whole_s,
            size_bytes=size_bytes,
            speed=0.0,
            worked_s=made.seconds + hooks.clock.worked_s - started_s,
            checked=min(1.0, read_s / whole_s) if whole_s else 0.0,
        )
        hooks.on_progress(step)

    checks = check_file(
        CheckRequest(
            path=made.part,
            profiles=order.devices,
            settings=settings,
            file_name=settings.file_name,
            should_stop=hooks.should_stop,
            is_paused=hooks.clock.is_paused,
            on_read=on_read,
            ends=ends,
            damage=made.damage,
        )
    )
    _hold(order, checks)
    return checks, hooks.clock.worked_s - started_s


def _hold(order: Order, checks: tuple[Check, ...]) -> None:
    """Raises ``NotWhole`` or ``CheckFailed`` where a rule is broken that nobody has accepted."""
    accepted = _accepted(order)
    failed = [
        (check.device_id, result)
        for check in checks
        for result in check.results
        if not result.ok and (check.device_id, result.rule) not in accepted
    ]
    if not failed:
        return
    device, rule = failed[0]
    broken = [result for _, result in failed]
    name = rule_name(rule.rule)
    measured, allowed = sides(rule.measured, rule.allowed, raw=True)
    if rule.rule in LOST:
        raise NotWhole(
            "The file would not be whole: {name} came out as {measured}, wanted was {allowed}.",
            name=name,
            measured=measured,
            allowed=allowed,
            rules=broken,
        )
    raise CheckFailed(
        "The file did not keep a rule of {device}: {name} came out as {measured}, allowed is {allowed}.",
        device=device,
        name=name,
        measured=measured,
        allowed=allowed,
        rules=broken,
    )


def _accepted(order: Order) -> set[tuple[str, str]]:
    """Rules, by device, that may be broken: the check keeps saying so."""
    # what was set by hand against a rule is made as it was asked for
    accepted = {(breach.device_id, breach.rule) for breach in order.plan.breaches}
    if order.title.gaps:
        # what is copied of a damaged disc is torn where the disc is
        accepted |= {(device.id, "read_through") for device in order.devices}
    if order.accept_loss:
        accepted |= {(device.id, rule) for device in order.devices for rule in LOST}
    return accepted
