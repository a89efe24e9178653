"""The facts about something playable that a device's rules are held against."""

from __future__ import annotations

from dataclasses import dataclass

from ..media import AudioStream, Title, VideoStream


@dataclass(frozen=True, slots=True, kw_only=True)
class MediaFacts:
    """A file, or a title as the file it would be.

    ``extension`` and ``index_in_front`` are ``None`` where there is no file or no index.
    """

    container: str
    size_bytes: int
    duration_s: float
    video: VideoStream | None
    audio: AudioStream | None
    extension: str | None = None
    index_in_front: bool | None = None


def title_facts(title: Title, audio: AudioStream | None) -> MediaFacts:
    """A title with one of its audio tracks, as it stands on its source."""
    return MediaFacts(
        container=title.container,
        size_bytes=title.size_bytes,
        duration_s=title.duration_s,
        video=title.video,
        audio=audio,
    )
