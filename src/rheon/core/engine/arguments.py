"""Arguments that keep the engine from opening anything but the media it was given. Pure."""

from __future__ import annotations

READABLE_FORMATS = (
    "aac,ac3,aiff,asf,avi,dts,dtshd,eac3,flac,flv,h264,hevc,matroska,webm,mov,mp4,m4a,3gp,3g2,mj2,mp3,mpeg,mpegts,"
    "mpegtsraw,mpegvideo,m4v,ogg,truehd,wav,w64,srt,ass,webvtt"
)
"""Demuxers that Rheon lets the engine use. No playlist, script or device is among them."""

PIPE_INPUT = ("-protocol_whitelist", "pipe", "-format_whitelist", "mpeg", "-f", "mpeg")
"""Arguments for a program stream on standard input; follow with ``-i pipe:0``."""


def safe_file_input(path: str) -> list[str]:
    """Arguments that open one media file and nothing that it may point at."""
    return ["-protocol_whitelist", "file", "-format_whitelist", READABLE_FORMATS, "-i", f"file:{path}"]
