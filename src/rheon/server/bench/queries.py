"""Reading the Bench: its rows and columns, the plan sheet, verdicts, and what several devices can share."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from rheon.core.devices import DeviceProfile, RuleResult, Verdict, goals, judge_title
from rheon.core.errors import PlanError
from rheon.core.formats import channels_text, codec_name
from rheon.core.media import Title as CoreTitle
from rheon.core.media import mark_of
from rheon.core.planning import (
    NO_PINS,
    Balance,
    Breach,
    Decision,
    Move,
    OutputSettings,
    Plan,
    PlanRequest,
    Shared,
    kind_of,
    plan,
    serve,
)
from rheon.core.wording import CONSEQUENCES, RULE_NAMES, missing_sentences, sentence, sides
from rheon.server.household import queries as household
from rheon.server.household.capabilities import summary
from rheon.server.household.models import Column, Device
from rheon.server.shelf.models import Title

from .cells import estimate_document
from .models import PinSet
from .planning import bench_balance, request_for, stored_setting


def table_document() -> dict[str, Any]:
    """Picked titles down, devices across; the cells are asked for by themselves."""
    titles = Title.objects.filter(pick__isnull=False).only("pk", "name", "role", "duration_s", "outline", "source_id")
    return {
        "balance": bench_balance().value,
        "titles": [_row(title) for title in titles],
        "devices": [_column(device) for device in household.columns()],
    }


def sheet_document(title: Title, device: Device, moved: Sequence[Move] = ()) -> dict[str, Any]:
    """One cell in full. Raises ``BadPin`` or ``PlanError``."""
    setting = stored_setting(title.pk, device.pk)
    request = request_for(title, device, setting)
    made = plan(request)
    return {
        "title_id": title.pk,
        "title_name": title.name,
        "source_name": title.source.name,
        "device_id": device.pk,
        "device_name": device.name,
        "device_kind": _kind(device),
        "screen": _screen(request.devices),
        "duration_s": title.duration_s,
        "chapters": title.outline.get("chapters", []),
        "balance": request.balance.value,
        "own_balance": bool(setting and setting.balance),
        "treatment": made.treatment.value,
        "reason": sentence(made.reason),
        "decisions": [decision_document(decision, made) for decision in made.decisions],
        "breaches": [_breach(breach) for breach in made.breaches],
        "missing": list(missing_sentences(request.title)),
        "moved": [_move(move) for move in moved],
        "pins": list(request.pins.said),
        "estimate": estimate_document(made),
        "sampled": title.samples is not None,
        "steps": [_step(request, balance) for balance in Balance] if made.settings else [],
        "limit_bytes": min((limit for p in request.devices if (limit := p.limits.largest_file_bytes)), default=None),
        "free_bytes": device.free_bytes,
        "frame": _frame(made),
        "look": look_of(made),
        "rules": _rules(made.rules),
        "siblings": Title.objects.filter(source=title.source, role=title.role).exclude(pk=title.pk).count(),
        "picked": Title.objects.filter(pick__isnull=False).exclude(pk=title.pk).count(),
        "sets": [{"id": row.pk, "name": row.name, "pins": len(row.pins)} for row in PinSet.objects.all()],
    }


def verdicts_document(title: Title) -> dict[str, Any]:
    """Which of the household's devices play this title as it is, rule by rule."""
    core = title.core_title()
    everyone = household.household_wishes()
    return {
        "title_id": title.pk,
        "title_name": title.name,
        "devices": [_verdict(core, device, everyone) for device in household.devices()],
    }


def serving_document(title: Title, devices: Sequence[Device]) -> dict[str, Any]:
    """The smallest set of files that serves these devices."""
    core = title.core_title()
    rows = {f"{device.core_profile().id}-{device.pk}": device for device in devices}
    profiles = tuple(device.core_profile().model_copy(update={"id": key}) for key, device in rows.items())
    base = request_for(title, devices[0], None, core)
    found = serve(replace(base, devices=profiles, pins=NO_PINS))
    return {
        "title_id": title.pk,
        "files": [_shared(base, shared, rows) for shared in found.files],
        "as_it_is": [rows[profile.id].pk for profile in found.as_it_is],
        "impossible": [rows[profile.id].pk for profile in found.impossible],
    }


def goals_document() -> list[dict[str, Any]]:
    """What files can be made for beside devices, and whether the Bench has it already."""
    there = set(Device.objects.filter(column=Column.GOAL).values_list("profile__id", flat=True))
    return [
        {"id": profile.id, "name": profile.name, "about": profile.about, "on_bench": profile.id in there}
        for profile in goals().values()
    ]


def decision_document(decision: Decision, made: Plan) -> dict[str, Any]:
    kind = kind_of(decision.key)
    return {
        "key": decision.key,
        "group": kind.group,
        "label": kind.label,
        "help": kind.help,
        "value": decision.value,
        "text": decision.text,
        "reason": sentence(decision.reason),
        "pinned": decision.pinned,
        "fine": decision.fine,
        "choices": [{"value": choice.value, "text": choice.text} for choice in decision.choices],
        "ranges": [
            {"low": item.low, "high": item.high, "unit": item.unit, "before": item.before} for item in decision.ranges
        ],
        "broken": [_breach(breach) for breach in made.breaches if breach.rule in kind.rules],
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


def _breach(breach: Breach) -> dict[str, str]:
    measured, allowed = sides(breach.measured, breach.allowed)
    return {
        "device": breach.device_name,
        "rule": RULE_NAMES[breach.rule],
        "measured": measured,
        "allowed": allowed,
        "consequence": ("perhaps " if breach.unsure else "") + CONSEQUENCES.get(breach.rule, "it may not play"),
    }


def _move(move: Move) -> dict[str, Any]:
    return {
        "label": kind_of(move.key).label,
        "before": move.before,
        "after": move.after,
        "reason": sentence(move.reason) if move.reason else "",
    }


def _rules(rules: Sequence[RuleResult]) -> list[dict[str, Any]]:
    return [rule_document(rule) for rule in rules]


def rule_document(rule: RuleResult) -> dict[str, Any]:
    """A rule with both sides, in the words people use."""
    measured, allowed = sides(rule.measured, rule.allowed)
    return {"rule": RULE_NAMES[rule.rule], "ok": rule.ok, "measured": measured, "allowed": allowed}


def _verdict(core: CoreTitle, device: Device, everyone: Any) -> dict[str, Any]:
    judged = judge_title(core, device.core_profile(), household.liked(device, everyone).languages)
    rules = judged.rules if judged.verdict is not Verdict.CANNOT else ()
    return {
        "device_id": device.pk,
        "name": device.name,
        "kind": device.core_profile().kind.value,
        "verdict": judged.verdict.value,
        "reason": sentence(judged.reason),
        "rules": _rules(rules),
    }


def _shared(base: PlanRequest, shared: Shared, rows: dict[str, Device]) -> dict[str, Any]:
    settings = shared.plan.settings
    video = settings.video if settings else None
    return {
        "device_ids": [rows[profile.id].pk for profile in shared.devices],
        "summary": settings_text(settings) if settings else "",
        "estimate": estimate_document(shared.plan),
        "costs": [
            text for profile in shared.devices if (text := _cost(base, profile, rows, video.height if video else 0))
        ],
    }


def _cost(base: PlanRequest, profile: DeviceProfile, rows: dict[str, Device], lines: int) -> str:
    """What a device loses by sharing, in a sentence; empty where that is nothing."""
    try:
        alone = plan(replace(base, devices=(profile,), pins=NO_PINS), explained=False)
    except PlanError:
        return ""
    own = alone.settings.video if alone.settings else None
    if own is None or own.height <= lines:
        return ""
    return f"{rows[profile.id].name} gets {lines} lines instead of {own.height}"


def _row(title: Title) -> dict[str, Any]:
    return {
        "id": title.pk,
        "name": title.name,
        "role": title.role,
        "duration_s": title.duration_s,
        "size_bytes": title.outline.get("size_bytes", 0),
        "detail": title.outline.get("detail", ""),
    }


def _column(device: Device) -> dict[str, Any]:
    served = device.served()
    shared = device.column == Column.SHARED
    profile = None if shared else device.core_profile()
    return {
        "id": device.pk,
        "name": device.name,
        "column": device.column,
        "kind": _kind(device),
        "model": profile.name if profile else f"one file for {len(served)} devices",
        "detail": summary(profile) if profile else ", ".join(row.name for row in served),
        "free_bytes": device.free_bytes,
        "largest_file_bytes": _largest_file(device),
        "used": device.used,
    }


def _largest_file(device: Device) -> int | None:
    """The largest file that every device takes for which one is made."""
    bounds = [row.core_profile().limits.largest_file_bytes for row in device.served()]
    return min((bound for bound in bounds if bound), default=None)


def _kind(device: Device) -> str:
    served = device.served()
    return served[0].core_profile().kind.value if served else "goal"


def _step(request: PlanRequest, balance: Balance) -> dict[str, Any]:
    made = plan(replace(request, balance=balance), explained=False)
    return {"balance": balance.value, "estimate": estimate_document(made)}


def _screen(profiles: Sequence[DeviceProfile]) -> dict[str, int] | None:
    """The screen on which the picture is shown; the largest where there are several."""
    screens = [profile.screen for profile in profiles if profile.screen]
    best = max(screens, key=lambda screen: screen.width * screen.height, default=None)
    return {"width": best.width, "height": best.height} if best else None


def _frame(made: Plan) -> dict[str, int] | None:
    """The shape of the picture that comes out, in square pixels."""
    video = made.settings.video if made.settings else None
    if video is None:
        return None
    return {"width": round(video.width * video.sample_aspect), "height": video.height}


def look_of(made: Plan) -> str:
    """A mark of everything that changes how the picture looks."""
    settings = made.settings
    if settings is None or settings.video is None:
        return ""
    video = settings.video
    seen = (video.width, video.height, video.sample_aspect, video.crop, video.fields, video.colour, settings.drawn)
    return mark_of(seen)
