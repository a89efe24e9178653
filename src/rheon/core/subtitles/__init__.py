"""Text subtitles: whatever encoding and dialect they come in."""

from .text import SubtitleText, TimedLine, decode_text, read_subtitles, to_subrip

__all__ = ["SubtitleText", "TimedLine", "decode_text", "read_subtitles", "to_subrip"]
