"""Arguments that several encoders share."""

from __future__ import annotations

from ...media import VideoSettings

PASS_LOG = "pass"


def passes(at_pass: int) -> list[str]:
    return ["-pass", str(at_pass), "-passlogfile", PASS_LOG] if at_pass else []


def ceiling(made: VideoSettings) -> list[str]:
    """Peak and buffer."""
    return ["-maxrate", str(made.peak_bps), "-bufsize", str(made.buffer_bits)]


def rate(made: VideoSettings) -> list[str]:
    """Constant quality or an average, inside peak and buffer."""
    aim = ["-crf", str(made.quality)] if made.quality is not None else ["-b:v", str(made.bitrate_bps)]
    return [*aim, *ceiling(made)]


def optional(flag: str, value: str | None) -> list[str]:
    return [] if value is None else [flag, value]
