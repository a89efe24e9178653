"""Reading the Shelf."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from typing import Any

from rheon.core.analysis import Survey
from rheon.core.formats import channels_text, codec_name, is_text
from rheon.core.media import AudioStream, SubtitleStream, VideoStream, aspect_text, language_name
from rheon.core.media import Title as CoreTitle
from rheon.core.system import is_there, text_path
from rheon.core.wording import duration_text, sentence

from .actions.frames import FRAMES, STRIP
from .models import FilmFolder, Source, Title

SOURCE_FIELDS = (
    "id", "path", "name", "label", "kind", "form", "size_bytes", "state", "at_title", "title_count",
    "error_code", "error_message", "problems", "drive",
)  # fmt: skip
SCANS = {
    "progressive": "whole frames",
    "interlaced": "interlaced fields",
    "telecined": "film spread over fields",
    "unknown": "not told",
}
BY_HAND = "picked: set by hand"
SURE, LIKELY = 0.85, 0.6
PAGE_SOURCES, PAGE_TITLES = 200, 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class SourcesPage:
    """The sources from ``first`` to ``last`` (both included), and a mark that changes when any of them does."""

    first: int
    last: int
    mark: str


def film_folders_document() -> list[dict[str, Any]]:
    return [
        {
            "id": row.pk,
            "path": row.path,
            "found": row.found,
            "looking": row.looked is None,
            "present": is_there(text_path(row.path)),
        }
        for row in FilmFolder.objects.all()
    ]


def sources_page(after: int) -> SourcesPage:
    """The page behind the source ``after``: few sources with many titles, or many with few."""
    rows = Source.objects.filter(pk__gt=after).order_by("pk")
    seen, titles = [], 0
    for row in rows.values_list("pk", "title_count", "changed", "at_title", "state")[:PAGE_SOURCES]:
        if seen and titles + row[1] > PAGE_TITLES:
            break
        seen.append(row)
        titles += row[1]
    mark = hashlib.sha256(repr(seen).encode()).hexdigest()[:32]
    return SourcesPage(first=after + 1, last=seen[-1][0] if seen else after, mark=mark)


def sources_document(page: SourcesPage) -> list[dict[str, Any]]:
    """The sources of a page with their titles, in two queries and without building rows into objects."""
    titles: dict[int, list[dict[str, Any]]] = {}
    rows = Title.objects.filter(source_id__gte=page.first, source_id__lte=page.last).values_list(
        "source_id", "id", "number", "name", "duration_s", "role", "role_by_hand", "outline"
    )
    for source_id, pk, number, name, duration_s, role, by_hand, outline in rows:
        entry = {"id": pk, "number": number, "name": name, "duration_s": duration_s, "role": role}
        picked = f"picked: {outline.get('reason', '')}"
        entry |= {"gaps": [], "part_of": None, "taken": picked, "taken_together": picked, **outline}
        entry.pop("detail", None)  # the Bench's
        if by_hand:
            entry |= {"reason": "set by hand", "taken": BY_HAND, "taken_together": BY_HAND}
        titles.setdefault(source_id, []).append(entry)
    sources = Source.objects.filter(pk__range=(page.first, page.last)).values(*SOURCE_FIELDS)
    return [{**row, "titles": titles.get(row["id"], [])} for row in sources]


def title_document(title: Title) -> dict[str, Any]:
    """Everything the title view shows, in words where words are better."""
    core, survey = title.core_title(), title.core_survey() or Survey()
    return {
        "id": title.id,
        "source_id": title.source_id,
        "source_name": title.source.name,
        "number": title.number,
        "name": title.name,
        "duration_s": title.duration_s,
        "size_bytes": core.size_bytes,
        "role": title.role,
        "role_by_hand": title.role_by_hand,
        "reasons": ["set by hand"] if title.role_by_hand else [sentence(reason) for reason in core.reasons],
        "fault": core.fault,
        "gaps": [{"from_s": gap.from_s, "to_s": gap.to_s} for gap in core.gaps],
        "part_of": core.part_of,
        "angle": title.angle,
        "angles": core.angles,
        "looked_at": _looked_at(title, core),
        "picture": _picture(core, survey),
        "borders": _borders(core.video, survey),
        "tags": [{"topic": key.replace("_", " ").capitalize(), "text": text} for key, text in core.tags.items()],
        "has_artwork": core.artwork is not None,
        "frames": FRAMES if core.video and not core.fault else 0,
        "strip": STRIP if core.video and not core.fault else 0,
        "chapters": [{"number": c.number, "start_s": c.start_s, "name": c.name} for c in core.chapters],
        "audio": [_audio(track, survey) for track in core.audio],
        "subtitles": [_subtitle(track, survey) for track in core.subtitles],
    }


def _looked_at(title: Title, core: CoreTitle) -> str:
    if title.survey is not None or core.fault:
        return "yes"
    return "failed" if title.survey_failed else "waiting"


def _how_sure(sure: float) -> str:
    return "" if sure >= SURE else " (likely)" if sure >= LIKELY else " (unsure)"


def _audio(track: AudioStream, survey: Survey) -> dict[str, Any]:
    found = next((sound for sound in survey.sounds if sound.index == track.index), None)
    said: list[str] = []
    if found is not None and found.silent:
        said.append("silent")
    elif found is not None and found.loudness_lufs is not None:
        said.append(f"{found.loudness_lufs:.0f} LUFS, peak {found.peak_dbfs or 0:.0f} dB{_how_sure(found.sure)}")
    if found is not None and found.same_as is not None:
        said.append(f"the same as track {found.same_as + 1}")
    if track.is_core:
        said.append(f"the core of track {track.index}")
    return {
        "index": track.index,
        "language": language_name(track.language),
        "form": f"{codec_name(track.codec)} {channels_text(track.channels)}",
        "purpose": track.purpose.value,
        "name": track.name,
        "heard": "; ".join(said),
    }


def _subtitle(track: SubtitleStream, survey: Survey) -> dict[str, Any]:
    found = next((words for words in survey.words if words.index == track.index), None)
    said = {"captions": ["for the hard of hearing"], "commentary": ["commentary"], "large": ["large letters"]}.get(
        track.purpose.value, []
    )
    if found is not None:
        lines = f"{found.lines} line{'' if found.lines == 1 else 's'}" if found.lines else "no line found"
        said = [*said, f"{'' if found.sure > 0.95 else 'about '}{lines}"]
    if track.forced.value == "all":
        said = [*said, "all forced"]
    elif found is not None and found.forced:
        said = [*said, f"{found.forced} of them forced"]
    form = "text file" if track.path else "text" if is_text(track) else "pictures"
    return {"index": track.index, "language": language_name(track.language), "form": form, "found": ", ".join(said)}


def _borders(video: VideoStream | None, survey: Survey) -> dict[str, Any] | None:
    """The borders as shares of the picture's width and height, to draw over a frame."""
    found = survey.borders
    if video is None or found is None or not found.any:
        return None
    return {
        "top": found.top / video.height,
        "bottom": found.bottom / video.height,
        "left": found.left / video.width,
        "right": found.right / video.width,
        "sure": found.sure,
    }


def _picture(core: CoreTitle, survey: Survey) -> list[dict[str, str]]:
    video = core.video
    if video is None:
        return []
    cadence = survey.cadence
    seen = _how_sure(cadence.sure) if cadence else ""
    how = SCANS[video.scan.value] + (", in the pictures themselves" if video.film_in_fields else "")
    rate = f"{float(video.frame_rate):.3f} a second" + (" on average, varying" if video.variable_rate else "")
    facts = [
        {"topic": "Picture", "text": f"{video.width} × {video.height}, shown {aspect_text(video.display_aspect)}"},
        {"topic": "Codec", "text": codec_name(video.codec)},
        {"topic": "Cadence", "text": f"{rate}, {how}{seen}"},
    ]
    if video.letterboxed:
        facts.append({"topic": "Form", "text": "letterboxed: a wide picture inside 4:3"})
    if video.rotation:
        facts.append({"topic": "Turned", "text": f"by {video.rotation}°"})
    if survey.borders is not None:
        facts.append({"topic": "Borders", "text": _borders_text(video, survey)})
    facts += [
        {"topic": "Missing", "text": f"{gap.to_s - gap.from_s:.0f} s at {duration_text(gap.from_s)}"}
        for gap in core.gaps
    ]
    return facts


def _borders_text(video: VideoStream, survey: Survey) -> str:
    found = survey.borders
    assert found is not None
    if not found.any:
        return f"none{_how_sure(found.sure)}"
    lines = [
        f"{count} {side}"
        for count, side in ((found.top, "above"), (found.bottom, "below"), (found.left, "left"), (found.right, "right"))
        if count
    ]
    width, height = video.width - found.left - found.right, video.height - found.top - found.bottom
    return f"{', '.join(lines)}: the picture is {width} × {height}{_how_sure(found.sure)}"
