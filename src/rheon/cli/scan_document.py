"""The JSON document of ``rheon scan``."""

from __future__ import annotations

from typing import Any

from rheon.core.errors import RheonError
from rheon.core.media import Problem, Source, Title, aspect_text, rate_text
from rheon.core.wording import problem_text, sentence

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
    return {"code": problem.code, "title": problem.title, "message": problem_text(problem)}
