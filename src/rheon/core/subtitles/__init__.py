"""Text subtitles, whatever their encoding and dialect, and where the engine finds them."""

from .laid_out import lay_out
from .text import LARGEST_BYTES, SubtitleText, TimedLine, decode_text, read_subtitles, to_subrip

__all__ = [
    "LARGEST_BYTES",
    "SubtitleText",
    "TimedLine",
    "decode_text",
    "lay_out",
    "read_subtitles",
    "to_subrip",
]
