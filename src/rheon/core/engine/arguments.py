"""Arguments that keep the engine from opening anything but the media it was given. Pure."""

from __future__ import annotations

from ..media import StreamKind

READABLE_FORMATS = (
    "aac,ac3,aiff,asf,avi,dts,dtshd,eac3,flac,flv,h264,hevc,matroska,webm,mov,mp4,m4a,3gp,3g2,mj2,mp3,mpeg,mpegts,"
    "mpegtsraw,mpegvideo,m4v,ogg,truehd,wav,w64,srt,ass,webvtt"
)
"""Demuxers that Rheon lets the engine use. No playlist, script or device is among them."""

_PIPES = {StreamKind.PROGRAM: "mpeg", StreamKind.TRANSPORT: "mpegts"}


def pipe_input(kind: StreamKind) -> list[str]:
    """Arguments for a disc's stream on standard input."""
    name = _PIPES[kind]
    return ["-protocol_whitelist", "pipe", "-format_whitelist", name, "-f", name, "-i", "pipe:0"]


def safe_file_input(path: str) -> list[str]:
    """Arguments that open one media file and nothing that it may point at."""
    return ["-protocol_whitelist", "file", "-format_whitelist", READABLE_FORMATS, "-i", f"file:{path}"]
