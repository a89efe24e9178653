"""Reading the Shelf."""

from __future__ import annotations

from typing import Any

from rheon.core.media import aspect_text, language_name
from rheon.core.media.codecs import channels_text, codec_name
from rheon.core.media.sentences import sentence

from .actions.frames import FRAMES
from .models import Source, Title

SOURCE_FIELDS = (
    "id", "path", "name", "label", "kind", "form", "size_bytes", "state", "at_title", "title_count",
    "error_code", "error_message", "problems",
)  # fmt: skip


def sources_document() -> list[dict[str, Any]]:
    """Every source with its titles, in two queries and without building rows into objects."""
    titles: dict[int, list[dict[str, Any]]] = {}
    rows = Title.objects.values_list("source_id", "id", "number", "name", "duration_s", "role", "outline")
    for source_id, pk, number, name, duration_s, role, outline in rows:
        entry = {"id": pk, "number": number, "name": name, "duration_s": duration_s, "role": role, **outline}
        titles.setdefault(source_id, []).append(entry)
    return [{**row, "titles": titles.get(row["id"], [])} for row in Source.objects.values(*SOURCE_FIELDS)]


def title_document(title: Title) -> dict[str, Any]:
    """Everything the title view shows, in words where words are better."""
    core = title.core_title()
    return {
        "id": title.id,
        "source_id": title.source_id,
        "source_name": title.source.name,
        "number": title.number,
        "name": title.name,
        "duration_s": title.duration_s,
        "size_bytes": core.size_bytes,
        "role": title.role,
        "reasons": [sentence(reason) for reason in core.reasons],
        "fault": core.fault,
        "picture": _picture(core.video),
        "frames": FRAMES if core.video and not core.fault else 0,
        "chapters": [{"number": c.number, "start_s": c.start_s, "name": c.name} for c in core.chapters],
        "audio": [
            {
                "index": track.index,
                "language": language_name(track.language),
                "form": f"{codec_name(track.codec)} {channels_text(track.channels)}",
                "purpose": track.purpose.value,
            }
            for track in core.audio
        ],
        "subtitles": [
            {
                "index": track.index,
                "language": language_name(track.language),
                "form": "text" if track.is_text else "pictures",
            }
            for track in core.subtitles
        ],
    }


def _picture(video: Any) -> list[dict[str, str]]:
    if video is None:
        return []
    scans = {
        "progressive": "whole frames",
        "interlaced": "interlaced fields",
        "telecined": "film spread over fields",
        "unknown": "not told",
    }
    return [
        {"topic": "Picture", "text": f"{video.width} × {video.height}, shown {aspect_text(video.display_aspect)}"},
        {"topic": "Codec", "text": codec_name(video.codec)},
        {"topic": "Cadence", "text": f"{float(video.frame_rate):.3f} a second, {scans[video.scan.value]}"},
    ]
