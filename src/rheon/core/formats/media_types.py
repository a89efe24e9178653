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


TYPES_ON_NETWORK = {
    ".mkv": "video/x-matroska",
    ".mka": "audio/x-matroska",
    ".wav": "audio/wav",
    ".srt": "text/srt",
}
"""What TVs and players know, most of which were built before these types were registered under other names."""


def type_on_network(suffix: str) -> str:
    """The type of a file with such an ending, as media servers of a home network say it."""
    return TYPES_ON_NETWORK.get(suffix.lower(), media_type(suffix))


def features_on_network(suffix: str) -> str:
    """The fourth field of a protocol description: byte ranges are given, the content is not converted, and it streams.

    Source: UPnP ConnectionManager:1, section 2.5.2; IEC 62481-1, sections on ``DLNA.ORG_OP``, ``CI`` and ``FLAGS``.
    """
    streams = type_on_network(suffix).startswith(("video/", "audio/"))
    return "DLNA.ORG_OP=01;DLNA.ORG_CI=0;DLNA.ORG_FLAGS=01700000000000000000000000000000" if streams else "*"


def protocol_info(suffix: str) -> str:
    """How a file with such an ending is fetched: by HTTP, in ranges (UPnP ConnectionManager:1, section 2.5.2)."""
    return f"http-get:*:{type_on_network(suffix)}:{features_on_network(suffix)}"
