"""The JSON documents of the command line, as ``docs/architecture.md`` promises them."""

from __future__ import annotations

from typing import Any

from rheon.core.checking import Check
from rheon.core.devices import DeviceProfile, Judgement
from rheon.core.media.facts import Fact
from rheon.core.planning import Decision, Plan
from rheon.core.wording import sentence, sides

Document = dict[str, Any]


def device_document(profile: DeviceProfile) -> Document:
    return profile.model_dump(mode="json", exclude_none=True)


def plan_document(plan: Plan) -> Document:
    made, expected = plan.settings, plan.estimate
    return {
        "title": plan.title_number,
        "devices": list(plan.device_ids),
        "balance": plan.balance.value,
        "treatment": plan.treatment.value,
        "reason": sentence(plan.reason),
        "file_name": made.file_name if made else None,
        "decisions": [_decision(decision) for decision in plan.decisions],
        "breaks": [{"device": b.device_id, "rule": b.rule, **_sides(b.measured, b.allowed)} for b in plan.breaches],
        "estimate": {
            "size_bytes": expected.size_bytes,
            "size_range_bytes": [expected.size_low_bytes, expected.size_high_bytes],
            "time_s": expected.time_s,
            "time_range_s": [expected.time_low_s, expected.time_high_s],
        }
        if expected
        else None,
    }


def check_document(check: Check) -> Document:
    rules = [{"rule": rule.rule, "ok": rule.ok, **_sides(rule.measured, rule.allowed)} for rule in check.results]
    return {
        "device": check.device_id,
        "verdict": "plays" if check.ok else "fails",
        "fails": [rule for rule in rules if not rule["ok"]],
        "rules": rules,
    }


def verdict_document(judged: Judgement) -> Document:
    return {
        "device": judged.profile.id,
        "verdict": judged.verdict.value,
        "reason": sentence(judged.reason),
        "rules": [{"rule": rule.rule, "ok": rule.ok, **_sides(rule.measured, rule.allowed)} for rule in judged.rules],
    }


def _sides(measured: Fact, allowed: Fact) -> Document:
    said, bound = sides(measured, allowed, raw=True)
    return {"measured": said, "allowed": bound}


def _decision(decision: Decision) -> Document:
    return {
        "key": decision.key,
        "value": decision.value,
        "text": decision.text,
        "reason": sentence(decision.reason),
        "pinned": decision.pinned,
    }
