"""Media types of files, by their ending (IANA's registry; for those that are not in it, what browsers send)."""

from __future__ import annotations

MEDIA_TYPES = {
    ".mp4": "video/mp4",
    ".m4v": "video/mp4",
    ".mov": "video/quicktime",
    ".mkv": "video/matroska",
    ".webm": "video/webm",
    ".avi": "video/x-msvideo",
    ".wmv": "video/x-ms-wmv",
    ".ts": "video/mp2t",
    ".m2ts": "video/mp2t",
    ".mpg": "video/mpeg",
    ".mp3": "audio/mpeg",
    ".m4a": "audio/mp4",
    ".m4b": "audio/mp4",
    ".mka": "audio/matroska",
    ".ogg": "audio/ogg",
    ".opus": "audio/ogg",
    ".flac": "audio/flac",
    ".wav": "audio/vnd.wave",
    ".ac3": "audio/ac3",
    ".srt": "application/x-subrip",
    ".jpg": "image/jpeg",
}
UNKNOWN = "application/octet-stream"
PLAYED_BY_BROWSERS = frozenset({".mp4", ".m4v", ".webm", ".mp3", ".m4a", ".m4b", ".ogg", ".opus", ".flac", ".wav"})
"""Endings of files that browsers play, as far as their codecs are theirs too."""


def media_type(suffix: str) -> str:
    """The type of a file with such an ending, in capitals or not."""
    return MEDIA_TYPES.get(suffix.lower(), UNKNOWN)
