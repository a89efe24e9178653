"""The JSON documents of the command line, as ``docs/architecture.md`` promises them."""

from __future__ import annotations

from typing import Any

from rheon.core.checking import Check
from rheon.core.devices import DeviceProfile, Judgement
from rheon.core.errors import RheonError
from rheon.core.media import Problem, Source, Title, aspect_text, rate_text
from rheon.core.media.sentences import sentence
from rheon.core.planning import Decision, Plan

Document = dict[str, Any]


def scan_document(source: Source) -> Document:
    return {
        "source": {
            "kind": source.kind.value,
            "form": source.form.value,
            "label": source.label,
            "size_bytes": source.size_bytes,
        },
        "titles": [_title(title) for title in source.titles],
        "problems": [_problem(problem) for problem in source.problems],
    }


def refusal_document(error: RheonError) -> Document:
    """What a scan prints where the source was refused."""
    return {"source": None, "titles": [], "problems": [{"code": error.code, "title": None, "message": error.message}]}


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
        "breaks": [
            {"device": b.device_id, "rule": b.rule, "measured": b.measured, "allowed": b.allowed} for b in plan.breaches
        ],
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
    rules = [
        {"rule": rule.rule, "ok": rule.ok, "measured": rule.measured, "allowed": rule.allowed} for rule in check.results
    ]
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
        "rules": [
            {"rule": rule.rule, "ok": rule.ok, "measured": rule.measured, "allowed": rule.allowed}
            for rule in judged.rules
        ],
    }


def _title(title: Title) -> Document:
    video = title.video
    return {
        "number": title.number,
        "duration_s": title.duration_s,
        **({"promised_s": title.promised_s} if title.promised_s is not None else {}),
        "size_bytes": title.size_bytes,
        "angles": title.angles,
        "video": {
            "codec": video.codec,
            "width": video.width,
            "height": video.height,
            "frame_rate": rate_text(video.frame_rate),
            "display_aspect": aspect_text(video.display_aspect),
            "scan": video.scan.value,
            "borders": [b.top, b.bottom, b.left, b.right] if (b := video.borders) is not None else None,
        }
        if video
        else None,
        "chapters": [{"number": c.number, "start_s": c.start_s, "name": c.name} for c in title.chapters],
        "audio": [
            {
                "index": track.index,
                "language": track.language,
                "codec": track.codec,
                "channels": track.channels,
                "purpose": track.purpose.value,
            }
            for track in title.audio
        ],
        "subtitles": [
            {"index": t.index, "language": t.language, "format": t.format, "forced": t.forced.value}
            for t in title.subtitles
        ],
        "role": title.role.value,
        "reasons": [sentence(reason) for reason in title.reasons],
        "shares": [{"title": share.title, "from_s": share.from_s, "to_s": share.to_s} for share in title.shares],
    }


def _problem(problem: Problem) -> Document:
    return {"code": problem.code, "title": problem.title, "message": problem.message}


def _decision(decision: Decision) -> Document:
    return {
        "key": decision.key,
        "value": decision.value,
        "text": decision.text,
        "reason": sentence(decision.reason),
        "pinned": decision.pinned,
    }
