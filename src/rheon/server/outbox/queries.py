"""Reading the Outbox."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.db.models import Count, Sum

from rheon.core.devices import RuleResult
from rheon.core.media.documents import load
from rheon.core.system import is_there
from rheon.server.bench.queries import rule_document
from rheon.server.home.queries import output_folders
from rheon.server.household.models import Device

from .models import Output

PLAYED_BY_BROWSERS = {".mp4": "video/mp4", ".m4v": "video/mp4", ".mp3": "audio/mpeg", ".m4a": "audio/mp4"}


OUTLINE = ("id", "title_id", "title_name", "device_names", "path", "size_bytes", "making_s", "checking_s", "held")
PAGE = 500


def outputs_document(after: int) -> dict[str, Any]:
    """How many outputs there are and how large, and a page of them, newest first, behind the one ``after``."""
    rows = Output.objects.filter(pk__lt=after) if after else Output.objects.all()
    outputs = [_outline(row) for row in rows.values(*OUTLINE)[:PAGE]]
    whole = Output.objects.aggregate(count=Count("id"), size_bytes=Sum("size_bytes", default=0))
    return {**whole, "outputs": outputs}


def _outline(row: dict[str, Any]) -> dict[str, Any]:
    return {**{key: row[key] for key in OUTLINE if key != "path"}, "present": is_there(row["path"])}


def output_document(output: Output) -> dict[str, Any]:
    path = Path(output.path)
    return {
        "id": output.pk,
        "job_id": output.job_id,
        "title_id": output.title_id,
        "title_name": output.title_name,
        "device_names": output.device_names,
        "summary": output.summary,
        "file_name": path.name,
        "folder": _folder_text(path.parent),
        "present": is_there(path),
        "is_folder": path.is_dir(),
        "media_type": PLAYED_BY_BROWSERS.get(path.suffix.lower()),
        "size_bytes": output.size_bytes,
        "making_s": output.making_s,
        "checking_s": output.checking_s,
        "expected": output.expected,
        "checks": [_check(check) for check in output.checks],
        "played_on": _played_on(output),
        "made": output.made.isoformat(),
    }


def _played_on(output: Output) -> list[dict[str, Any]]:
    """The devices that are still in the Household, each with what was reported last."""
    said = {report["device_id"]: report for report in output.reports}
    rows = Device.objects.filter(pk__in=output.device_ids)
    return [
        {
            "device_id": row.pk,
            "device_name": row.name,
            "reported": row.pk in said,
            "trouble": said[row.pk]["trouble"] if row.pk in said else None,
        }
        for row in rows
    ]


def _folder_text(folder: Path) -> str:
    """Where a file lies, as far as it helps: from the folder for files on, without the way to it."""
    for output in reversed(output_folders()):
        if folder.is_relative_to(output):
            return str(output.name / folder.relative_to(output))
    return folder.name


def _check(check: dict[str, Any]) -> dict[str, Any]:
    rules = [rule_document(load(RuleResult, result)) for result in check["results"]]
    return {"device_name": check["device_name"], "kept": sum(rule["ok"] for rule in rules), "rules": rules}
