"""Every argument list that the engine is called with, made here and nowhere else. Pure."""

from .inputs import audio_specifier, pipe_input, safe_file_input, subtitle_specifier, video_specifier

__all__ = ["audio_specifier", "pipe_input", "safe_file_input", "subtitle_specifier", "video_specifier"]
