"""The registry of subtitle formats."""

from __future__ import annotations

from ..media import SubtitleStream
from .codec import SubtitleFormat

SUBTITLE_FORMATS = {
    form.name: form
    for form in (
        SubtitleFormat(name="subrip", label="SubRip", is_text=True, encoder="srt"),
        SubtitleFormat(name="mov_text", label="MP4 timed text", is_text=True, encoder="mov_text"),
        SubtitleFormat(name="webvtt", label="WebVTT", is_text=True, encoder="webvtt"),
        SubtitleFormat(name="ass", label="ASS", is_text=True),
        SubtitleFormat(name="ssa", label="SSA", is_text=True),
        SubtitleFormat(name="text", label="plain text", is_text=True),
        SubtitleFormat(name="dvd_subtitle", label="DVD subpictures", is_text=False, encoder="dvdsub"),
        SubtitleFormat(name="hdmv_pgs_subtitle", label="Blu-ray subtitle pictures", is_text=False),
    )
}


def is_text(track: SubtitleStream) -> bool:
    """Whether a track holds text; a format that is not known is taken for pictures."""
    known = SUBTITLE_FORMATS.get(track.format)
    return known is not None and known.is_text
