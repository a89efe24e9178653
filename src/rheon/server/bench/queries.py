"""Reading the Bench: the crossing table and the plan sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from rheon.core.devices import DeviceProfile
from rheon.core.errors import PlanError
from rheon.core.media import Title as CoreTitle
from rheon.core.media.codecs import channels_text, codec_name
from rheon.core.media.sentences import RULE_NAMES, sentence
from rheon.core.planning import Balance, Decision, Estimate, OutputSettings, Plan, PlanRequest, plan
from rheon.server.household import queries as household
from rheon.server.household.capabilities import summary
from rheon.server.household.models import Device
from rheon.server.shelf.models import Title

from .models import Setting
from .planning import bench_balance, request_for, stored_setting

LABELS = {
    "picture.crop": "Cut away",
    "picture.size": "Size",
    "picture.aspect": "Aspect",
    "picture.pixels": "Pixels",
    "picture.cadence": "Cadence",
    "picture.fields": "Fields",
    "picture.deinterlacer": "Deinterlacer",
    "picture.codec": "Codec",
    "picture.profile": "Profile",
    "picture.level": "Level",
    "picture.depth": "Depth",
    "picture.colour": "Colours",
    "picture.rate": "Rate",
    "picture.peak": "Peak rate",
    "picture.buffer": "Buffer",
    "picture.passes": "Passes",
    "picture.keyframes": "Key frames",
    "picture.effort": "Effort",
    "sound.track": "Track",
    "sound.codec": "Becomes",
    "sound.channels": "Channels",
    "sound.sample_rate": "Sample rate",
    "sound.bitrate": "Bitrate",
    "sound.gain": "Gain",
    "words.subtitle": "Subtitles",
    "words.form": "Form",
    "words.lines": "Lines",
    "file.container": "Container",
    "file.name": "Name",
    "file.chapters": "Chapters",
}


def picked_titles() -> list[Title]:
    return list(Title.objects.filter(pick__isnull=False).select_related("source"))


def table_document() -> dict[str, Any]:
    """Picked titles down, devices across, a cell for each pair."""
    titles, devices = picked_titles(), household.device_profiles()
    settings = {(row.title_id, row.device_id): row for row in Setting.objects.filter(title__in=titles)}
    balance, languages = bench_balance(), household.languages()
    cells: list[dict[str, Any]] = []
    rows = []
    for title in titles:
        core = title.core_title()
        rows.append(_row(title, core))
        base = PlanRequest(
            title=core,
            devices=(),
            name=title.name,
            balance=balance,
            languages=languages,
            samples=title.core_samples(),
        )
        cells += _cells(title, base, devices, settings)
    return {
        "balance": balance.value,
        "titles": rows,
        "devices": [_column(device, profile) for device, profile in devices],
        "cells": cells,
    }


def sheet_document(title: Title, device: Device) -> dict[str, Any]:
    """One cell in full. Raises ``BadPin`` or ``PlanError``."""
    setting = stored_setting(title.pk, device.pk)
    profile = device.core_profile()
    request = request_for(title, profile, setting)
    made = plan(request)
    return {
        "title_id": title.pk,
        "title_name": title.name,
        "source_name": title.source.name,
        "device_id": device.pk,
        "device_name": device.name,
        "screen": _screen(profile),
        "duration_s": title.duration_s,
        "chapters": title.outline.get("chapters", []),
        "balance": request.balance.value,
        "own_balance": bool(setting and setting.balance),
        "treatment": made.treatment.value,
        "reason": sentence(made.reason),
        "decisions": [decision_document(decision) for decision in made.decisions],
        "pins": len(request.pins),
        "estimate": estimate_document(made.estimate),
        "sampled": title.samples is not None,
        "steps": [_step(request, balance) for balance in Balance] if made.settings else [],
        "limit_bytes": profile.limits.largest_file_bytes,
        "frame": _frame(made),
        "rules": [
            {"rule": RULE_NAMES[r.rule], "ok": r.ok, "measured": r.measured, "allowed": r.allowed} for r in made.rules
        ],
    }


def estimate_document(expected: Estimate | None) -> dict[str, Any] | None:
    if expected is None:
        return None
    return {
        "size_bytes": expected.size_bytes,
        "size_low_bytes": expected.size_low_bytes,
        "size_high_bytes": expected.size_high_bytes,
        "time_s": expected.time_s,
        "time_low_s": expected.time_low_s,
        "time_high_s": expected.time_high_s,
    }


def decision_document(decision: Decision) -> dict[str, Any]:
    return {
        "key": decision.key,
        "group": decision.key.partition(".")[0],
        "label": LABELS[decision.key],
        "value": decision.value,
        "text": decision.text,
        "reason": sentence(decision.reason),
        "pinned": decision.pinned,
        "choices": [{"value": choice.value, "text": choice.text} for choice in decision.choices],
    }


def settings_text(made: OutputSettings) -> str:
    """The settings of an output in one line."""
    parts = [made.file_name.rpartition(".")[2].upper()]
    if made.video:
        parts += [f"{made.video.width}×{made.video.height}", codec_name(made.video.codec)]
    parts += [f"{channels_text(sound.channels)} {codec_name(sound.codec)}" for sound in made.audio]
    if made.drawn:
        parts.append("subtitles drawn in")
    elif made.subtitles:
        parts.append("subtitles to switch on")
    return " · ".join(parts)


def _cells(
    title: Title,
    base: PlanRequest,
    devices: Sequence[tuple[Device, DeviceProfile]],
    settings: dict[tuple[int, int], Setting],
) -> list[dict[str, Any]]:
    """A title's row of cells; a cell whose file would be the same as an earlier one's names that device."""
    cells = []
    seen: list[tuple[int, OutputSettings]] = []
    for device, profile in devices:
        own = settings.get((title.pk, device.pk))
        request = replace(
            base,
            devices=(profile,),
            pins=own.pins if own else {},
            balance=Balance(own.balance) if own and own.balance else base.balance,
        )
        try:
            made = plan(request)
        except PlanError as error:
            cells.append(_cell(title, device, None, error.what))
            continue
        cell = _cell(title, device, made, sentence(made.reason))
        if made.settings:
            cell["same_as"] = next((other for other, known in seen if known == made.settings), None)
            seen.append((device.pk, made.settings))
        cell["by_hand"] = bool(own and (own.pins or own.balance))
        cells.append(cell)
    return cells


def _cell(title: Title, device: Device, made: Plan | None, reason: str) -> dict[str, Any]:
    made_settings = made.settings if made else None
    surround = bool(made_settings and made_settings.sound and made_settings.sound.channels > 2)
    return {
        "title_id": title.pk,
        "device_id": device.pk,
        "verdict": made.treatment.value if made else "cannot",
        "reason": reason,
        "estimate": estimate_document(made.estimate if made else None),
        "surround": surround,
        "same_as": None,
        "by_hand": False,
    }


def _row(title: Title, core: CoreTitle) -> dict[str, Any]:
    video = core.video
    what = f"{codec_name(video.codec)} {video.width}×{video.height}" if video else "sound"
    return {
        "id": title.pk,
        "name": title.name,
        "role": title.role,
        "duration_s": title.duration_s,
        "size_bytes": core.size_bytes,
        "detail": what,
    }


def _column(device: Device, profile: DeviceProfile) -> dict[str, Any]:
    return {
        "id": device.pk,
        "name": device.name,
        "kind": profile.kind.value,
        "model": profile.name,
        "detail": summary(profile),
    }


def _step(request: PlanRequest, balance: Balance) -> dict[str, Any]:
    made = plan(replace(request, balance=balance))
    return {"balance": balance.value, "estimate": estimate_document(made.estimate)}


def _screen(profile: DeviceProfile) -> dict[str, int] | None:
    return {"width": profile.screen.width, "height": profile.screen.height} if profile.screen else None


def _frame(made: Plan) -> dict[str, int] | None:
    """The shape of the picture that comes out, in square pixels."""
    video = made.settings.video if made.settings else None
    if video is None:
        return None
    return {"width": round(video.width * video.sample_aspect), "height": video.height}
