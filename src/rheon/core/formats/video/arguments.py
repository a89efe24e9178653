"""Arguments that several encoders share."""

from __future__ import annotations

from collections.abc import Sequence

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


def primaries_and_light(numbers: Sequence[object]) -> str:
    """What a mastering display showed, as encoders read it: green, blue, red, white, and the most and least light."""
    pairs = zip(("G", "B", "R", "WP", "L"), numbers[::2], numbers[1::2], strict=True)
    return "".join(f"{name}({one},{two})" for name, one, two in pairs)


def optional(flag: str, value: str | None) -> list[str]:
    return [] if value is None else [flag, value]
